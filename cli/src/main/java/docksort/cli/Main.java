package docksort.cli;

import docksort.files.LogFile;
import docksort.problem.CoreException;
import docksort.problem.Faults;
import docksort.run.ProgramVersion;
import docksort.run.WeeklyHours;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.Callable;
import java.util.logging.Level;
import java.util.logging.Logger;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/// The command line. The launcher hands over the names of the commands below, so a new one is added
/// there, too.
@Command(
        name = "dock-sort",
        mixinStandardHelpOptions = true,
        scope = CommandLine.ScopeType.INHERIT,
        version = "Dock Sort " + ProgramVersion.TEXT,
        description = "Inspects footage, plans, makes and tracks working copies, switches and relinks timelines.",
        subcommands = {
            BeginCommand.class,
            InspectCommand.class,
            PlanCommand.class,
            RecipesCommand.class,
            BayCommand.class,
            MakeCommand.class,
            StockCommand.class,
            ConformCommand.class,
            SwitchCommand.class,
            DepartCommand.class,
            PullCommand.class,
            PlaceCommand.class,
            RelinkCommand.class,
            RereadCommand.class,
            FindCommand.class,
            AdoptCommand.class,
            NamesCommand.class,
            CleanCommand.class,
            SumsCommand.class,
            ArrivalsCommand.class,
            PairsCommand.class,
            DescribeCommand.class,
            ReportCommand.class,
            RunsCommand.class,
            LooksCommand.class,
            WatchCommand.class,
            OutCommand.class,
            AsideCommand.class,
            BringCommand.class,
            LookCommand.class,
            WhereCommand.class,
            MeasureCommand.class,
            AdviseCommand.class,
            PinCommand.class,
            SettingsCommand.class,
            UndoCommand.class,
            RedoCommand.class,
            LogCommand.class,
            ShareCommand.class,
            JoinCommand.class,
            WorkCommand.class,
            FootageCommand.class,
            CommandLine.HelpCommand.class
        },
        exitCodeListHeading = "%nExit codes:%n",
        exitCodeList = {
            "0:done",
            "1:done, but something needs a look: an unreadable file, a failed copy, a refused relink",
            "2:the command line is wrong",
            "3:what was handed in cannot be used",
            "4:a volume is full, not mounted, or may not be written to",
            "5:the media engine is missing or failed",
            "6:the project's catalogue cannot be opened",
            "70:a fault in the program"
        })
public final class Main implements Callable<Integer> {
    @CommandLine.Spec
    private CommandLine.Model.CommandSpec spec = CommandLine.Model.CommandSpec.create();

    public static void main(String[] args) {
        quietLibraries();
        LogFile.open();
        // What breaks down beside a command is told, too.
        Faults.listen(problem -> {
            if (!"main".equals(Thread.currentThread().getName())) {
                System.err.println("dock-sort: " + problem.sentence());
            }
        });
        System.exit(run(
                args,
                new PrintWriter(System.out, true, StandardCharsets.UTF_8),
                new PrintWriter(System.err, true, StandardCharsets.UTF_8)));
    }

    /// Runs one command with given streams.
    static int run(String[] args, PrintWriter out, PrintWriter err) {
        return new CommandLine(new Main())
                .registerConverter(WeeklyHours.class, WeeklyHours::parse)
                .setOut(out)
                .setErr(err)
                .setCaseInsensitiveEnumValuesAllowed(true)
                .setParameterExceptionHandler(new PlainRefusal())
                .setExecutionExceptionHandler((failure, line, _) -> {
                    if (failure instanceof CoreException known) {
                        line.getErr()
                                .println("dock-sort: "
                                        + Common.plain(known.problem().sentence()));
                        return ExitCodes.of(known);
                    }
                    if (failure instanceof InterruptedException) {
                        Thread.currentThread().interrupt();
                    }
                    line.getErr()
                            .println("dock-sort: "
                                    + Common.plain(Faults.tell(failure).sentence()));
                    return ExitCodes.FAULT;
                })
                .execute(args);
    }

    private static void quietLibraries() {
        Logger.getLogger("").setLevel(Level.WARNING);
    }

    @Override
    public Integer call() {
        spec.commandLine().usage(spec.commandLine().getErr());
        return ExitCodes.USAGE;
    }
}
