package docksort.engine;

import java.io.BufferedReader;
import java.io.File;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Consumer;
import java.util.regex.Pattern;

/// Starts child processes and sees to their end.
///
/// On Linux every child is started through `setpriv --pdeathsig KILL`, which asks the kernel to kill the
/// child when the thread that started it ends (prctl(2), PR_SET_PDEATHSIG). That thread lives as long as
/// this object, so children die with it however the program ends, SIGKILL included. Elsewhere children
/// are ended by [#close] and by the end of their pipes.
final class ChildProcesses implements AutoCloseable {
    private static final Path SETPRIV = Path.of("/usr/bin/setpriv");
    private static final Path NICE = Path.of("/usr/bin/nice");
    private static final Path IONICE = Path.of("/usr/bin/ionice");
    private static final Duration GRACE = Duration.ofSeconds(2);
    private static final long MOST_REPEATED = 1_000_000; // hours of pictures of which none decodes

    private final ExecutorService starter = Executors.newSingleThreadExecutor(
            Thread.ofPlatform().daemon().name("child-starter").factory());
    private final ExecutorService readers = Executors.newVirtualThreadPerTaskExecutor();
    private final Path libraryFolder;
    private final List<String> prefix;

    ChildProcesses(Path libraryFolder) {
        this.libraryFolder = libraryFolder;
        this.prefix = Files.isExecutable(SETPRIV) ? List.of(SETPRIV.toString(), "--pdeathsig", "KILL") : List.of();
    }

    /// The last gets the disk only while nobody else wants it.
    private static List<String> ranked(ProcessControl.Rank rank, List<String> arguments) {
        var line = new ArrayList<String>();
        if (rank != ProcessControl.Rank.USUAL && Files.isExecutable(NICE)) {
            line.addAll(List.of(NICE.toString(), "-n", rank == ProcessControl.Rank.LAST ? "19" : "6"));
        }
        if (rank == ProcessControl.Rank.LAST && Files.isExecutable(IONICE)) {
            line.addAll(List.of(IONICE.toString(), "-c", "3"));
        }
        line.addAll(arguments);
        return line;
    }

    /// How a child ended: its exit code, the last lines of its error stream, and why it was ended early
    /// if it was.
    record Ending(int exitCode, List<String> lastLines, Cut cut) {
        boolean isGood() {
            return exitCode == 0 && cut == Cut.NONE;
        }

        /// Why it is no good end, also of a child that said nothing; empty for a good one.
        String complaint() {
            if (isGood()) {
                return "";
            }
            return switch (cut) {
                case SILENT -> "the media engine did nothing for long and was ended";
                case STILL -> "the media engine came no further for long and was ended";
                case NONE, CANCELLED ->
                    lastLines.isEmpty()
                            ? "the media engine ended with " + exitCode + " and without a word"
                            : String.join(" | ", lastLines);
            };
        }
    }

    enum Cut {
        NONE,
        CANCELLED,
        SILENT,
        STILL
    }

    /// Runs a program to its end.
    ///
    /// @param arguments the program and its arguments; never seen by a shell
    /// @param signs what tells that the child works; it is ended where there are none
    /// @param output reads the child's standard output to its end
    /// @throws IOException when the program cannot be started or its output cannot be read
    Ending run(List<String> arguments, SignsOfLife signs, OutputReader output, Cancellation cancellation)
            throws IOException, InterruptedException {
        return run(arguments, signs, output, ProcessControl.of(cancellation));
    }

    Ending run(List<String> arguments, SignsOfLife signs, OutputReader output, ProcessControl control)
            throws IOException, InterruptedException {
        return run(arguments, signs, output, _ -> {}, control);
    }

    /// @param begun hears of the child before it is read from
    Ending run(
            List<String> arguments,
            SignsOfLife signs,
            OutputReader output,
            Consumer<ProcessHandle> begun,
            ProcessControl control)
            throws IOException, InterruptedException {
        Cancellation cancellation = control.cancellation();
        Brake brake = control.brake();
        Process child = start(ranked(control.rank(), arguments));
        begun.accept(child.toHandle());
        brake.add(child.pid());
        var lastLines = new LastLines();
        var over = Cut.NONE;
        try (var _ = cancellation.onCancel(() -> readers.execute(() -> end(child, brake)))) {
            CompletableFuture<Void> errors =
                    CompletableFuture.runAsync(() -> drainErrors(child, lastLines, signs::told), readers);
            CompletableFuture<Void> answers = CompletableFuture.runAsync(
                    () -> {
                        try (InputStream in = new WatchedStream(child.getInputStream(), signs::wrote)) {
                            output.read(in);
                            in.transferTo(OutputStream.nullOutputStream());
                        } catch (IOException e) {
                            throw new UncheckedIOException(e);
                        }
                    },
                    readers);
            while (!child.waitFor(SignsOfLife.BETWEEN_LOOKS.toMillis(), TimeUnit.MILLISECONDS)) {
                if (brake.isOn()) {
                    signs.held();
                }
                if (over == Cut.NONE) {
                    over = signs.look(child.toHandle());
                    if (over != Cut.NONE) {
                        end(child, brake);
                    }
                }
            }
            boolean cut = over != Cut.NONE || cancellation.isCancelled();
            await(errors, cut);
            await(answers, cut);
        } finally {
            if (child.isAlive()) {
                end(child, brake);
            }
            brake.remove(child.pid());
        }
        return new Ending(child.exitValue(), lastLines.list(), cancellation.isCancelled() ? Cut.CANCELLED : over);
    }

    /// Starts a child that is asked on its standard input and answers on its standard output.
    Conversation converse(List<String> arguments) throws IOException, InterruptedException {
        Process child = start(arguments, ProcessBuilder.Redirect.PIPE);
        var lastLines = new LastLines();
        readers.execute(() -> drainErrors(child, lastLines, () -> {}));
        return new Conversation(child, lastLines);
    }

    /// A child that answers what it is asked.
    final class Conversation implements AutoCloseable {
        private final Process child;
        private final LastLines lastLines;

        private Conversation(Process child, LastLines lastLines) {
            this.child = child;
            this.lastLines = lastLines;
        }

        OutputStream question() {
            return child.getOutputStream();
        }

        InputStream answer() {
            return child.getInputStream();
        }

        List<String> lastLines() {
            return lastLines.list();
        }

        /// Waits for an answer; a child that takes longer is ended.
        <T> T within(Duration longest, Callable<T> answer) throws IOException, InterruptedException {
            var read = new CompletableFuture<T>();
            readers.execute(() -> {
                try {
                    read.complete(answer.call());
                } catch (Exception e) { // handed over to whoever waits
                    read.completeExceptionally(e);
                }
            });
            try {
                return read.get(longest.toMillis(), TimeUnit.MILLISECONDS);
            } catch (TimeoutException e) {
                throw new IOException("it did not answer for " + longest.toSeconds() + " seconds", e);
            } catch (ExecutionException e) {
                if (e.getCause() instanceof RuntimeException fault) {
                    throw fault;
                }
                throw new IOException("its answer was broken off", e);
            }
        }

        @Override
        public void close() {
            child.destroyForcibly();
        }
    }

    /// @param cut whether the child was ended by us, which breaks its streams off
    private static void await(CompletableFuture<Void> reader, boolean cut) throws IOException, InterruptedException {
        try {
            reader.get(30, TimeUnit.SECONDS);
        } catch (ExecutionException e) {
            if (cut) {
                return;
            }
            if (e.getCause() instanceof UncheckedIOException io) {
                throw new IOException("cannot read what the media engine wrote", io.getCause());
            }
            if (e.getCause() instanceof RuntimeException fault) {
                throw fault;
            }
            throw new IllegalStateException(e.getCause());
        } catch (TimeoutException e) {
            throw new IOException("the media engine left its output open", e);
        }
    }

    private Process start(List<String> arguments) throws IOException, InterruptedException {
        return start(arguments, ProcessBuilder.Redirect.from(nullDevice()));
    }

    private Process start(List<String> arguments, ProcessBuilder.Redirect input)
            throws IOException, InterruptedException {
        var line = new ArrayList<>(prefix);
        line.addAll(arguments);
        var builder = new ProcessBuilder(line);
        builder.redirectInput(input);
        builder.environment().merge("LD_LIBRARY_PATH", libraryFolder.toString(), (old, own) -> own + ":" + old);
        builder.environment().put("AV_LOG_FORCE_NOCOLOR", "1");
        builder.environment().put("SVT_LOG", "1"); // an AV1 encoder says errors only, as all others
        try {
            return starter.submit(builder::start).get();
        } catch (ExecutionException e) {
            throw new IOException("cannot start " + arguments.getFirst(), e.getCause());
        } catch (RejectedExecutionException e) {
            throw new IOException("the program is closing", e);
        }
    }

    private static File nullDevice() {
        return new File(File.separatorChar == '\\' ? "NUL" : "/dev/null");
    }

    /// Asks, waits a little, then kills, children of the child first.
    private static void end(Process child, Brake brake) {
        brake.letEnd(child.pid());
        child.destroy();
        try {
            if (!child.waitFor(GRACE.toMillis(), TimeUnit.MILLISECONDS)) {
                child.descendants().forEach(ProcessHandle::destroyForcibly);
                child.destroyForcibly().waitFor(GRACE.toMillis(), TimeUnit.MILLISECONDS);
            }
        } catch (InterruptedException e) {
            child.destroyForcibly();
            Thread.currentThread().interrupt();
        }
    }

    /// A decoder that refuses the same packet for ever says so for ever: it is ended (seen with FFmpeg
    /// 8.0.1, H.264 decoded by frame threads with `-err_detect explode`).
    private static void drainErrors(Process child, LastLines lastLines, Runnable told) {
        long again = 0;
        try (var reader = new BufferedReader(new InputStreamReader(child.getErrorStream(), StandardCharsets.UTF_8))) {
            for (String line = reader.readLine(); line != null; line = reader.readLine()) {
                told.run();
                if (!line.isBlank() && !line.startsWith("frame=") && !line.startsWith("size=")) {
                    again = lastLines.add(line) ? 0 : again + 1; // all but the engine's statistics
                    if (again == MOST_REPEATED) {
                        lastLines.add("(said without end; it was stopped)");
                        child.destroyForcibly();
                        return;
                    }
                }
            }
        } catch (IOException e) {
            lastLines.add("(error stream broken off: " + e.getMessage() + ")");
        }
    }

    @Override
    public void close() {
        starter.shutdownNow();
        readers.shutdownNow();
    }

    /// Reads a child's standard output.
    @FunctionalInterface
    interface OutputReader {
        void read(InputStream output) throws IOException;

        static OutputReader lines(Consumer<String> each) {
            return in -> {
                var reader = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8));
                for (String line = reader.readLine(); line != null; line = reader.readLine()) {
                    each.accept(line);
                }
            };
        }
    }

    /// The end of an error stream, in bounded memory.
    private static final class LastLines {
        private static final int MOST = 40;
        private static final Pattern ADDRESS = Pattern.compile("\\[([^\\]@]{1,80}) @ 0x[0-9a-fA-F]{1,16}\\] ?");
        private final Deque<String> lines = new ArrayDeque<>();

        /// Without addresses in memory and without what would move a terminal's cursor or change its
        /// colours.
        private static String plain(String line) {
            return ADDRESS.matcher(line).replaceAll("$1: ").replaceAll("\\p{Cntrl}(\\[[0-9;]{0,16}[A-Za-z])?", "");
        }

        /// @return whether it is none of those that are kept
        synchronized boolean add(String said) {
            String plain = plain(said);
            String line = plain.length() > 400 ? plain.substring(0, 400) + "…" : plain;
            boolean isNew = !lines.contains(line);
            if (lines.size() == MOST) {
                lines.removeFirst();
            }
            lines.addLast(line);
            return isNew;
        }

        synchronized List<String> list() {
            return List.copyOf(lines);
        }
    }

    private static final class WatchedStream extends FilterInputStream {
        private final Runnable read;

        WatchedStream(InputStream in, Runnable read) {
            super(in);
            this.read = read;
        }

        @Override
        public int read(byte[] into, int offset, int length) throws IOException {
            int bytes = super.read(into, offset, length);
            read.run();
            return bytes;
        }
    }
}
