-- Number of a copy's frame that is least like its original's; -1 where not all of them were compared.
ALTER TABLE copy ADD COLUMN least_alike BIGINT NOT NULL DEFAULT -1;
