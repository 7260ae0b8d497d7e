package docksort.dispatch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import docksort.dispatch.ChecksumCheck.Result;
import docksort.files.Checksum;
import docksort.problem.CoreException.InputRefused;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import net.openhft.hashing.LongHashFunction;
import net.openhft.hashing.LongTupleHashFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ChecksumTest {
    @TempDir
    Path folder = Path.of("");

    private Path file(String name, String text) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(Objects.requireNonNull(file.getParent()));
        return Files.writeString(file, text);
    }

    /// md5: RFC 1321, A.5; sha1: RFC 3174, 7.3; xxh64, xxh3, xxh128: the tests of their published
    /// description ("xxHash fast digest algorithm", from memory); c4: SMPTE ST 2114, the digest of
    /// nothing (from memory).
    @ParameterizedTest
    @CsvSource({
        "MD5, '', d41d8cd98f00b204e9800998ecf8427e",
        "MD5, abc, 900150983cd24fb0d6963f7d28e17f72",
        "SHA1, abc, a9993e364706816aba3e25717850c26c9cd0d89d",
        "XXH64, '', ef46db3751d8e999",
        "XXH64, abc, 44bc2cf5ad770999",
        "XXH3, '', 2d06800538d394c2",
        "XXH128, '', 99aa06d3014798d86001c324468d497f",
        "C4, ''," + " c459dsjfscH38cYeXXYogktxf4Cd9ibshE3BHUo6a58hBXmRQdZrAkZzsWcbWtDg5oQstpDuni4Hirj75GEmTc1sFT"
    })
    void checksumsAreThoseOfTheirDescriptions(Checksum kind, String text, String sum) throws IOException {
        assertThat(kind.of(file("a.bin", text), () -> false)).contains(sum);
    }

    /// Another implementation as witness, over the lengths at which the algorithm changes its way.
    @Test
    void xxh3IsThatOfAnotherImplementation() throws IOException {
        byte[] bytes = new byte[5_000];
        new Random(1).nextBytes(bytes);
        for (int length : List.of(0, 1, 3, 4, 8, 9, 16, 17, 128, 129, 240, 241, 1_023, 1_024, 1_025, 5_000)) {
            byte[] some = Arrays.copyOf(bytes, length);
            Path file = Files.write(folder.resolve("some.bin"), some);
            long[] wide = LongTupleHashFunction.xx128().hashBytes(some);
            HexFormat hex = HexFormat.of();
            assertThat(Checksum.XXH3.of(file, () -> false))
                    .as("%d bytes", length)
                    .contains(hex.toHexDigits(LongHashFunction.xx3().hashBytes(some)));
            assertThat(Checksum.XXH128.of(file, () -> false))
                    .as("%d bytes", length)
                    .contains(hex.toHexDigits(wide[1]) + hex.toHexDigits(wide[0]));
        }
    }

    private static final String MD5_ABC = "900150983cd24fb0d6963f7d28e17f72";

    @ParameterizedTest
    @ValueSource(
            strings = {
                MD5_ABC + "  clips/a.mov\n",
                MD5_ABC + " *clips\\a.mov\r\n",
                "MD5 (clips/a.mov) = 900150983CD24FB0D6963F7D28E17F72\n",
                "44bc2cf5ad770999  clips/a.mov\n",
                "XXH3_78af5f94892f3950  clips/a.mov\n",
                "XXH3 (clips/a.mov) = 78af5f94892f3950\n",
                "a9993e364706816aba3e25717850c26c9cd0d89d  clips/a.mov\n",
                """
                <?xml version="1.0" encoding="UTF-8"?>
                <hashlist version="1.1"><hash><file>clips/a.mov</file><size>3</size>
                <xxhash64be>44bc2cf5ad770999</xxhash64be></hash></hashlist>\
                """,
                """
                <hashlist version="2.0" xmlns="urn:ASC:MHL:v2.0"><hashes><hash><path size="3">clips/a.mov</path>
                <md5 action="original">900150983cd24fb0d6963f7d28e17f72</md5></hash></hashes></hashlist>\
                """
            })
    void everyKindOfListIsReadAndFindsAChange(String list) throws IOException {
        Path clip = file("clips/a.mov", "abc");
        Path sums = file("sums.txt", list);
        assertThat(check(sums).passes()).isTrue();
        Files.writeString(clip, "abd");
        assertThat(check(sums).lines())
                .singleElement()
                .satisfies(line -> assertThat(line.result()).isEqualTo(Result.DIFFERS));
        Files.delete(clip);
        file("clips/b.mov", "new");
        ChecksumCheck check = check(sums);
        assertThat(check.count(Result.MISSING)).isOne();
        assertThat(check.unlisted()).containsExactly(folder.resolve("clips/b.mov"));
    }

    private static ChecksumCheck check(Path list) {
        return ChecksumCheck.of(ChecksumList.read(list), (_, _) -> {}, () -> false);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "no list at all",
                MD5_ABC + "  ../outside.mov",
                MD5_ABC + "  /etc/hostname",
                "<hashlist><hash><path>a",
                """
                <!DOCTYPE x [<!ENTITY secret SYSTEM "file:///etc/hostname">]>
                <hashlist><hash><path>&secret;</path><md5>00</md5></hash></hashlist>\
                """
            })
    void aListThatIsNoneOrLeadsOutIsRefused(String list) throws IOException {
        Path sums = file("sums.txt", list);
        assertThatThrownBy(() -> ChecksumList.read(sums))
                .isInstanceOf(InputRefused.class)
                .hasMessageContaining("sums.txt");
    }

    @Test
    void generationsFollowEachOtherAndTheChainHoldsThem() throws IOException {
        Path a = file("Card/clips/a.mov", "abc");
        Path b = file("Card/clips/b é.mov", "bcd");
        Path card = folder.resolve("Card");
        var tool = new AscMhl.Tool("Dock Sort", "1", "desk");
        Instant now = Instant.parse("2026-03-11T02:00:00Z");
        AscMhl.Generation first =
                AscMhl.write(card, List.of(a, b), tool, now, () -> false).orElseThrow();
        assertThat(first.manifest()).hasFileName("0001_Card_2026-03-11_020000Z.mhl");
        assertThat(check(first.manifest()).passes()).isTrue();
        Files.writeString(b, "changed");
        AscMhl.Generation second = AscMhl.write(card, List.of(a, b), tool, now.plusSeconds(60), () -> false)
                .orElseThrow();
        assertThat(second.changed()).containsExactly(b);
        assertThat(Files.readString(second.manifest()))
                .contains("action=\"verified\"", "action=\"failed\"", "urn:ASC:MHL:v2.0", "clips/b é.mov");
        String chain = Files.readString(card.resolve("ascmhl/ascmhl_chain.xml"), StandardCharsets.UTF_8);
        assertThat(chain)
                .contains("sequencenr=\"1\"", "sequencenr=\"2\"")
                .contains(Checksum.C4.of(first.manifest(), () -> false).orElseThrow());
        assertThat(AscMhl.write(card, List.of(a), tool, now, () -> true))
                .as("cancelled")
                .isEmpty();
        assertThat(card.resolve("ascmhl")).isDirectoryNotContaining("glob:**0003*");
    }
}
