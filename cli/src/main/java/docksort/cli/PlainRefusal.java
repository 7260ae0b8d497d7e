package docksort.cli;

import docksort.run.WeeklyHours;
import java.nio.file.Path;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import picocli.CommandLine;
import picocli.CommandLine.IParameterExceptionHandler;
import picocli.CommandLine.Model.ArgSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.UnmatchedArgumentException;

/// Says what is wrong with a command line, in words for the person who typed it.
final class PlainRefusal implements IParameterExceptionHandler {
    @Override
    public int handleParseException(ParameterException wrong, String[] args) {
        CommandLine line = wrong.getCommandLine();
        String name = line.getCommandSpec().qualifiedName();
        line.getErr().println(name + ": " + words(wrong).replace("\n", "\\n"));
        if (wrong instanceof UnmatchedArgumentException unmatched) {
            List<String> near = unmatched.getSuggestions().stream().limit(3).toList();
            if (!near.isEmpty()) {
                line.getErr().println("Perhaps you mean: " + String.join(", ", near));
            }
        }
        line.getErr().println("Nothing was done. See: " + name + " --help");
        line.getErr().flush();
        return ExitCodes.USAGE;
    }

    private static String words(ParameterException wrong) {
        ArgSpec asked = wrong.getArgSpec();
        String value = wrong.getValue();
        if (asked == null || value == null) {
            return String.valueOf(wrong.getMessage());
        }
        String what = asked instanceof OptionSpec option ? option.longestName() : asked.paramLabel();
        return what + " wants " + kind(asked) + ", was \"" + value + "\"";
    }

    private static String kind(ArgSpec asked) {
        Class<?> type = asked.typeInfo().getType();
        Class<?> inner = asked.auxiliaryTypes().length > 0 ? asked.auxiliaryTypes()[0] : type;
        Class<?> wanted = type.equals(Optional.class) || asked.isMultiValue() ? inner : type;
        if (wanted.isEnum()) {
            return "one of "
                    + Arrays.stream(wanted.getEnumConstants())
                            .map(each -> each.toString().toLowerCase(Locale.ROOT))
                            .collect(Collectors.joining(", "));
        }
        if (wanted.equals(Integer.class)
                || wanted.equals(int.class)
                || wanted.equals(Long.class)
                || wanted.equals(long.class)) {
            return "a whole number";
        }
        if (wanted.equals(LocalTime.class)) {
            return "a time of day such as 22:30";
        }
        if (wanted.equals(WeeklyHours.class)) {
            return "hours of the week such as \"Mo-Fr 19:00-07:00\"";
        }
        return wanted.equals(Path.class) ? "a path" : "another value (" + asked.paramLabel() + ")";
    }
}
