package docksort.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import docksort.timeline.MediaPath.Form;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/// File URLs: RFC 8089 with its appendix E (drive letters, UNC names); escaping: RFC 3986, section 2. What
/// programs write beside the standards is common practice, no source.
class MediaPathTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '!',
            quoteCharacter = '"',
            value = {
                // file URLs with a path from the root
                "file:///a/b.mov ! POSIX ! /a/b.mov",
                "file:/a/b.mov ! POSIX ! /a/b.mov",
                "file://localhost/a/b.mov ! POSIX ! /a/b.mov",
                "FILE:///a/b.mov ! POSIX ! /a/b.mov",
                "file:///a/b%20c.mov ! POSIX ! /a/b c.mov",
                "file:///a/b c.mov ! POSIX ! /a/b c.mov",
                "file:///a/%23one.mov ! POSIX ! /a/#one.mov",
                "file:///a/#one.mov ! POSIX ! /a/#one.mov",
                "file:///a/what%3F.mov ! POSIX ! /a/what?.mov",
                "file:///a/100%25.mov ! POSIX ! /a/100%.mov",
                "file:///a/100% real.mov ! POSIX ! /a/100% real.mov",
                "file:///a/%C3%A9.mov ! POSIX ! /a/é.mov",
                "file:///a/e%CC%81.mov ! POSIX ! /a/e\u0301.mov",
                "file:///a/%E5%A4%9C.mov ! POSIX ! /a/夜.mov",
                "file:///a/%E9.mov ! POSIX ! /a/%E9.mov",
                "file:///a/b+c.mov ! POSIX ! /a/b+c.mov",
                "file:///a/./b/../c.mov ! POSIX ! /a/c.mov",
                "file:///a//b.mov ! POSIX ! /a/b.mov",
                "file:///../../a.mov ! POSIX ! /a.mov",
                // with a drive letter
                "file:///E:/a/b.mov ! DRIVE ! E:/a/b.mov",
                "file:///e:/a/b.mov ! DRIVE ! E:/a/b.mov",
                "file:///E%3A/a/b.mov ! DRIVE ! E:/a/b.mov",
                "file:///E|/a/b.mov ! DRIVE ! E:/a/b.mov",
                "file://E:/a/b.mov ! DRIVE ! E:/a/b.mov",
                "file:E:/a/b.mov ! DRIVE ! E:/a/b.mov",
                "file:///E:/a%20b/%23.mov ! DRIVE ! E:/a b/#.mov",
                "file:///E:\\a\\b.mov ! DRIVE ! E:/a/b.mov",
                // on a server
                "file://nas/share/a.mov ! SHARE ! //nas/share/a.mov",
                "file:////nas/share/a.mov ! SHARE ! //nas/share/a.mov",
                "file://///nas/share/a.mov ! SHARE ! //nas/share/a.mov",
                "file://nas/share/a%20b.mov ! SHARE ! //nas/share/a b.mov",
                "file://10.0.0.7/share/a.mov ! SHARE ! //10.0.0.7/share/a.mov",
                "file://nas/share/../../../a.mov ! SHARE ! //nas/share/a.mov",
                // plain paths
                "/a/b.mov ! POSIX ! /a/b.mov",
                "/a/b c.mov ! POSIX ! /a/b c.mov",
                "/a/100%.mov ! POSIX ! /a/100%.mov",
                "/a/-dash.mov ! POSIX ! /a/-dash.mov",
                "E:\\a\\b.mov ! DRIVE ! E:/a/b.mov",
                "E:/a/b.mov ! DRIVE ! E:/a/b.mov",
                "e:\\a\\.\\x\\..\\b.mov ! DRIVE ! E:/a/b.mov",
                "E:\\a\\b%20c.mov ! DRIVE ! E:/a/b%20c.mov",
                "\\\\nas\\share\\a.mov ! SHARE ! //nas/share/a.mov",
                "//nas/share/a.mov ! SHARE ! //nas/share/a.mov",
                "\\\\?\\E:\\a\\b.mov ! DRIVE ! E:/a/b.mov",
                "\\\\?\\UNC\\nas\\share\\a.mov ! SHARE ! //nas/share/a.mov",
                // relative to the timeline
                "a.mov ! RELATIVE ! a.mov",
                "./a.mov ! RELATIVE ! a.mov",
                "../media/a.mov ! RELATIVE ! ../media/a.mov",
                "media/../../a.mov ! RELATIVE ! ../a.mov",
                "media/b%20c.mov ! RELATIVE ! media/b c.mov",
                "media/100% real.mov ! RELATIVE ! media/100% real.mov",
                "-dash.mov ! RELATIVE ! -dash.mov",
                "media/#1.mov ! RELATIVE ! media/#1.mov"
            })
    void addressesOfEverySystemAreRead(String address, Form form, String text) {
        assertThat(MediaPath.readings(address)).first().isEqualTo(new MediaPath(form, text));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", " ", "https://elsewhere.example/x.mov", "rtsp://x/y", "data:text/plain,x", "urn:x:y"})
    void othersAreNoFiles(String address) {
        assertThat(MediaPath.readings(address)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "/a/b c.mov | file:///a/b%20c.mov | /a/b c.mov",
                "/a/#1?.mov | file:///a/%231%3F.mov | /a/#1?.mov",
                "/a/100%.mov | file:///a/100%25.mov | /a/100%.mov",
                "/a/b+c;d.mov | file:///a/b%2Bc;d.mov | /a/b+c;d.mov",
                "/a/12:30.mov | file:///a/12%3A30.mov | /a/12:30.mov",
                "/a/é夜.mov | file:///a/%C3%A9%E5%A4%9C.mov | /a/é夜.mov",
                "/a/[x]{y}.mov | file:///a/%5Bx%5D%7By%7D.mov | /a/[x]{y}.mov",
                "E:\\a b\\#1.mov | file:///E:/a%20b/%231.mov | E:\\a b\\#1.mov",
                "\\\\nas\\share\\a b.mov | file://nas/share/a%20b.mov | \\\\nas\\share\\a b.mov",
                "//10.0.0.7/s/ü.mov | file://10.0.0.7/s/%C3%BC.mov | \\\\10.0.0.7\\s\\ü.mov",
                "../media/b c.mov | ../media/b%20c.mov | ../media/b c.mov",
                "-dash.mov | -dash.mov | ./-dash.mov",
                "a:b.mov | a%3Ab.mov | a:b.mov"
            })
    void whatIsWrittenIsEscapedRightAndReadsBack(String path, String url, String plain) {
        MediaPath read = path.equals("a:b.mov") ? new MediaPath(Form.RELATIVE, path) : first(path);
        assertThat(read.url()).isEqualTo(url);
        assertThat(read.plain(read.form())).isEqualTo(plain);
        assertThat(first(url)).isEqualTo(read);
    }

    private static MediaPath first(String address) {
        return MediaPath.readings(address).getFirst();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "/cuts/night/x.mov | /cuts/night | x.mov",
                "/a/x.mov | /cuts/night | ../../a/x.mov",
                "/cuts/nightly/x.mov | /cuts/night | ../nightly/x.mov",
                "E:/media/x.mov | e:/MEDIA/cuts | ../x.mov",
                "E:/media/x.mov | F:/cuts | E:/media/x.mov",
                "//nas/one/x.mov | //nas/two | //nas/one/x.mov",
                "/x.mov | / | x.mov"
            })
    void theRelativeWayLeadsBackToTheSameFile(String path, String folder, String way) {
        MediaPath file = first(path);
        MediaPath from = first(folder);
        MediaPath relative = file.relativeTo(from);
        assertThat(relative.text()).isEqualTo(way);
        assertThat(relative.from(from).key()).isEqualTo(file.key());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            nullValues = "-",
            value = {
                "E:/Footage/Card/A.mov | e:\\footage | /mnt/f | /mnt/f/Card/A.mov",
                "E:/Footage2/A.mov | E:\\Footage | /mnt/f | -",
                "/mnt/f/Card/A.mov | /mnt/f | E:\\ | E:/Card/A.mov",
                "/mnt/f/Card/A.mov | /mnt/f/ | \\\\nas\\vol | //nas/vol/Card/A.mov",
                "/mnt/F/A.mov | /mnt/f | E:\\ | -",
                "/mnt/e\u0301/A.mov | /mnt/é | /x | /x/A.mov",
                "/A.mov | / | E:\\in | E:/in/A.mov",
                "E:/Card/A.mov | E:\\ | /mnt/f | /mnt/f/Card/A.mov"
            })
    void aFolderOfOneWorkstationIsThatOfAnother(String path, String folder, String to, String moved) {
        assertThat(first(path)
                        .moved(first(folder), first(to))
                        .map(MediaPath::text)
                        .orElse("-"))
                .isEqualTo(moved == null ? "-" : moved);
    }

    @Test
    void composedAndDecomposedLettersAreTheSameFile() {
        assertThat(first("/a/e\u0301.mov").key()).isEqualTo(first("/a/é.mov").key());
        assertThat(first("/a/E.mov").key()).isNotEqualTo(first("/a/e.mov").key());
        assertThat(first("E:/a/E.mov").key()).isEqualTo(first("E:/A/e.mov").key());
    }

    @Test
    void anAddressThatMayOrMayNotBeEscapedIsReadBothWays() {
        assertThat(MediaPath.readings("media/a%20b.mov"))
                .extracting(MediaPath::text)
                .containsExactly("media/a b.mov", "media/a%20b.mov");
        assertThat(MediaPath.readings("media\\a.mov"))
                .extracting(MediaPath::text)
                .containsExactly("media\\a.mov", "media/a.mov");
    }

    @Test
    void onlyPathsOfThisSystemAreLocal() {
        assertThat(first("/a/b.mov").local()).contains(Path.of("/a/b.mov"));
        assertThat(MediaPath.of(Path.of("/a/b.mov"))).isEqualTo(first("/a/b.mov"));
    }
}
