package docksort.catalogue;

/// Who works on a project, and where.
///
/// @param workstation the name under which the paths of this machine are kept
/// @param person stands beside every change that is made here
public record Desk(String workstation, String person) {}
