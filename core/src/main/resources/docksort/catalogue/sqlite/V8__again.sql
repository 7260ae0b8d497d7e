-- What does a change again that was taken back.
ALTER TABLE activity ADD COLUMN redo TEXT; -- JSON
