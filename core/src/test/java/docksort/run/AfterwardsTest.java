package docksort.run;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.run.Afterwards.Kind;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AfterwardsTest {
    private static final Path BIN = Path.of("/opt/bin");

    private static Afterwards command(String line) {
        return new Afterwards(Kind.COMMAND, line);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '^', textBlock = """
        rsync -a copies elsewhere          | rsync;-a;copies;elsewhere
        say "the night is over"            | say;the night is over
        say 'it''s' "" x                   | say;its;;x
        move C:\\Copies\\a $HOME ; rm -rf    | move;C:\\Copies\\a;$HOME;;;rm;-rf
        """)
    void wordsArePartedBySpacesAndReadByNoShell(String line, String words) {
        assertThat(String.join(";", command(line).words())).isEqualTo(words.strip());
    }

    @Test
    void whatCannotBeDoneHereIsSaid() {
        Set<Path> there = Set.of(BIN.resolve("rsync"), Path.of("/usr/bin/pmset"));
        assertThat(command("rsync -a x y").fault(there::contains, List.of(BIN))).isEmpty();
        assertThat(command("/opt/bin/rsync").fault(there::contains, List.of())).isEmpty();
        assertThat(command("bin/rsync").fault(there::contains, List.of(Path.of("/opt"))))
                .as("where it is depends on where one stands")
                .contains("there is no program bin/rsync");
        assertThat(command("rsync").fault(there::contains, List.of())).contains("there is no program rsync");
        assertThat(command("say \"open").fault(there::contains, List.of(BIN)))
                .contains("a quotation mark is not closed");
        assertThat(command(" ").fault(there::contains, List.of(BIN))).contains("write a program and its arguments");
        var sleep = new Afterwards(Kind.SLEEP, "");
        assertThat(sleep.fault(there::contains, List.of())).isEmpty();
        assertThat(sleep.fault(_ -> false, List.of())).contains("this system has no program that puts it to sleep");
        assertThat(Afterwards.NOTHING.fault(_ -> false, List.of())).isEmpty();
    }

    @Test
    void whatIsKeptIsReadAgain() {
        for (Afterwards act : List.of(Afterwards.NOTHING, new Afterwards(Kind.SLEEP, ""), command("run a  b "))) {
            assertThat(Afterwards.parse(act.text())).isEqualTo(act);
        }
        assertThat(Afterwards.parse("something else")).isEqualTo(Afterwards.NOTHING);
    }
}
