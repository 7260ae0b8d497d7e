package docksort.catalogue;

/// Who works on a project, and where.
///
/// @param workstation the name under which the paths of this machine are kept
/// @param person stands beside every change that is made here
/// @param password by which he is let into a shared project, where he typed one
public record Desk(String workstation, String person, Password password) {
    public Desk(String workstation, String person) {
        this(workstation, person, Password.NONE);
    }

    public Desk with(Password typed) {
        return new Desk(workstation, person, typed);
    }
}
