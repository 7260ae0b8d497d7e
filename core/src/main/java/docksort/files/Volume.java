package docksort.files;

import docksort.media.ByteSize;
import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Set;

/// The volume a file lies on, as far as the system tells.
///
/// @param name what the system calls it
/// @param kind "solid state", "hard disk", "network", "memory" or "kind not known"
/// @param system whether the operating system lies on it too
public record Volume(String name, String kind, String fileSystem, ByteSize total, ByteSize free, boolean system) {
    private static final Set<String> NETWORK =
            Set.of("nfs", "nfs4", "cifs", "smb3", "smbfs", "afs", "fuse.sshfs", "9p");

    /// @throws IOException when the file or its volume cannot be asked
    public static Volume of(Path file) throws IOException {
        FileStore store = Files.getFileStore(file);
        boolean system = Files.getFileStore(file.getRoot() == null ? Path.of("/") : file.getRoot())
                .equals(store);
        return new Volume(
                store.toString(),
                kind(store),
                store.type(),
                new ByteSize(store.getTotalSpace()),
                new ByteSize(store.getUsableSpace()),
                system);
    }

    public boolean isNetwork() {
        return kind.equals("network");
    }

    private static String kind(FileStore store) {
        String type = store.type().toLowerCase(Locale.ROOT);
        if (NETWORK.contains(type)) {
            return "network";
        }
        if (type.equals("tmpfs") || type.equals("ramfs")) {
            return "memory";
        }
        String device = store.name().replaceFirst("^/dev/", "");
        // On Linux the kernel says of each disk whether it turns; a partition's disk is the name without its
        // number.
        for (String disk : new String[] {device, withoutNumber(device)}) {
            Path rotational = Path.of("/sys/block", disk.replace('/', '!'), "queue", "rotational");
            try {
                if (!disk.isEmpty() && Files.isRegularFile(rotational)) {
                    return Files.readString(rotational).strip().equals("0") ? "solid state" : "hard disk";
                }
            } catch (IOException e) {
                return "kind not known";
            }
        }
        return "kind not known";
    }

    /// "sda" of "sda1", "nvme0n1" of "nvme0n1p2".
    private static String withoutNumber(String device) {
        int end = device.length();
        while (end > 0 && Character.isDigit(device.charAt(end - 1))) {
            end--;
        }
        boolean apart = end > 0 && end < device.length() && device.charAt(end - 1) == 'p';
        return device.substring(0, apart ? end - 1 : end);
    }
}
