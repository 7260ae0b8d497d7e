package docksort.files;

import com.dynatrace.hash4j.hashing.HashStream128;
import com.dynatrace.hash4j.hashing.HashStream64;
import com.dynatrace.hash4j.hashing.Hashing;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import net.jpountz.xxhash.StreamingXXHash64;
import net.jpountz.xxhash.XXHashFactory;

/// Checksums over all bytes of a file. Unlike a fingerprint, their cost grows with the file.
public enum Checksum {
    /// XXH64 with seed 0, as 16 hexadecimal digits, the highest first.
    XXH64("xxh64"),
    /// XXH3 of 64 bits with seed 0, written like XXH64.
    XXH3("xxh3"),
    /// XXH3 of 128 bits with seed 0, as 32 hexadecimal digits, the highest first.
    XXH128("xxh128"),
    MD5("md5"),
    SHA1("sha1"),
    /// Digest identifier of SMPTE ST 2114 ("C4"): SHA-512 in base 58.
    C4("c4");

    private static final int BUFFER = 1 << 20;
    private static final String BASE_58 = "123456789ABCDEFGHJKLMNPQRSTUVWXYZabcdefghijkmnopqrstuvwxyz";
    private static final int C4_DIGITS = 88;

    private final String label;

    Checksum(String label) {
        this.label = label;
    }

    public String label() {
        return label;
    }

    /// The kind of a name that lists use.
    public static Optional<Checksum> named(String name) {
        return switch (name.toLowerCase(Locale.ROOT)) {
            case "xxh64", "xxhash64be", "xxhash64" -> Optional.of(XXH64);
            case "xxh3", "xxh3_64" -> Optional.of(XXH3);
            case "xxh128" -> Optional.of(XXH128);
            case "md5" -> Optional.of(MD5);
            case "sha1" -> Optional.of(SHA1);
            case "c4" -> Optional.of(C4);
            default -> Optional.empty();
        };
    }

    /// Of what is in memory.
    public String of(byte[] bytes) {
        try {
            return of(new ByteArrayInputStream(bytes), () -> false).orElseThrow();
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    /// Reads the whole file.
    ///
    /// @param cancelled asked after every piece
    /// @return empty when it was cancelled
    public Optional<String> of(Path file, BooleanSupplier cancelled) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            return of(in, cancelled);
        }
    }

    Optional<String> of(InputStream in, BooleanSupplier cancelled) throws IOException {
        return switch (this) {
            case XXH64 -> xxh64(in, cancelled);
            case XXH3, XXH128 -> xxh3(in, cancelled);
            case MD5, SHA1, C4 -> digest(in, cancelled);
        };
    }

    private Optional<String> xxh3(InputStream in, BooleanSupplier cancelled) throws IOException {
        HashStream64 hash = this == XXH3
                ? Hashing.xxh3_64().hashStream()
                : Hashing.xxh3_128().hashStream();
        byte[] buffer = new byte[BUFFER];
        for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
            hash.putBytes(buffer, 0, read);
            if (cancelled.getAsBoolean()) {
                return Optional.empty();
            }
        }
        HexFormat hex = HexFormat.of();
        return Optional.of(
                hash instanceof HashStream128 wide
                        ? hex.toHexDigits(wide.get().getMostSignificantBits())
                                + hex.toHexDigits(wide.get().getLeastSignificantBits())
                        : hex.toHexDigits(hash.getAsLong()));
    }

    private static Optional<String> xxh64(InputStream in, BooleanSupplier cancelled) throws IOException {
        try (StreamingXXHash64 hash = XXHashFactory.fastestJavaInstance().newStreamingHash64(0)) {
            byte[] buffer = new byte[BUFFER];
            for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
                hash.update(buffer, 0, read);
                if (cancelled.getAsBoolean()) {
                    return Optional.empty();
                }
            }
            return Optional.of(HexFormat.of().toHexDigits(hash.getValue()));
        }
    }

    private Optional<String> digest(InputStream in, BooleanSupplier cancelled) throws IOException {
        MessageDigest digest = algorithm();
        byte[] buffer = new byte[BUFFER];
        for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
            digest.update(buffer, 0, read);
            if (cancelled.getAsBoolean()) {
                return Optional.empty();
            }
        }
        byte[] found = digest.digest();
        return Optional.of(this == C4 ? base58(found) : HexFormat.of().formatHex(found));
    }

    private MessageDigest algorithm() {
        try {
            return MessageDigest.getInstance(
                    switch (this) {
                        case MD5 -> "MD5";
                        case SHA1 -> "SHA-1";
                        case C4 -> "SHA-512";
                        case XXH64, XXH3, XXH128 -> throw new IllegalStateException("no digest");
                    });
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    private static String base58(byte[] bytes) {
        var number = new BigInteger(1, bytes);
        BigInteger base = BigInteger.valueOf(BASE_58.length());
        var digits = new StringBuilder();
        while (number.signum() > 0) {
            BigInteger[] parts = number.divideAndRemainder(base);
            digits.append(BASE_58.charAt(parts[1].intValue()));
            number = parts[0];
        }
        while (digits.length() < C4_DIGITS) {
            digits.append(BASE_58.charAt(0));
        }
        return "c4" + digits.reverse();
    }

    /// Whether two checksums of one kind are the same; hexadecimal ones may differ in capitals.
    public boolean same(String one, String other) {
        return this == C4 ? one.equals(other) : one.equalsIgnoreCase(other);
    }
}
