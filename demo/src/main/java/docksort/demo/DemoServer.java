package docksort.demo;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;

/// The database server of the shared demo, on this machine alone. It says its address, and ends when nobody
/// listens to it any more.
public final class DemoServer {
    private DemoServer() {}

    /// @param args the folder for its data, which is emptied
    public static void main(String[] args) throws IOException {
        if (args.length != 1) {
            System.err.println("usage: demo-server FOLDER");
            System.exit(2);
        }
        try (EmbeddedPostgres server = EmbeddedPostgres.builder()
                .setDataDirectory(Path.of(args[0]))
                .setCleanDataDirectory(true)
                .start()) {
            System.out.println("postgresql://postgres@localhost:" + server.getPort() + "/postgres");
            System.in.transferTo(OutputStream.nullOutputStream());
        }
    }
}
