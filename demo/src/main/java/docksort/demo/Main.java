package docksort.demo;

import docksort.engine.MediaEngine;
import java.io.IOException;
import java.nio.file.Path;

/// Makes the demo footage from the command line.
public final class Main {
    private Main() {}

    /// @param args the folder to make it in
    public static void main(String[] args) throws IOException, InterruptedException {
        if (args.length != 1) {
            System.err.println("usage: demo FOLDER");
            System.exit(2);
        }
        try (MediaEngine engine = MediaEngine.locate()) {
            DemoFootage.in(Path.of(args[0]), engine, System.out::println);
        }
    }
}
