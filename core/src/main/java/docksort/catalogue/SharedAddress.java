package docksort.catalogue;

import docksort.problem.CoreException.InputRefused;
import docksort.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/// Where the catalogue of a shared project is: a schema of a PostgreSQL database, by a connection URI as
/// libpq knows it (PostgreSQL documentation, 32.1.1.2 Connection URIs). It never holds a password: that
/// comes from PGPASSWORD, a password file, a service file, or from who is asked for it.
///
/// @param hosts with their ports, in the order in which they are tried; empty to take those of a service
/// @param user empty for what the service or the password file says
/// @param options connection parameters by their libpq names
/// @param schema in which the project's tables are
public record SharedAddress(
        List<String> hosts, String database, String user, Map<String, String> options, String schema) {
    private static final Pattern URI = Pattern.compile(
            "postgres(?:ql)?://(?:(?<user>[^@/?]*)@)?(?<hosts>[^@/?]*)(?:/(?<database>[^?]*))?(?:\\?(?<options>.*))?");
    private static final List<String> THIS_MACHINE = List.of("localhost", "127.0.0.1", "[::1]");

    /// A program that is frozen in the middle of a change holds up all others, until its server takes it for
    /// gone.
    private static final Duration FROZEN = Duration.ofSeconds(20);

    /// A server that says nothing for so long is taken for gone: longer than anybody waits for his turn.
    private static final Duration SILENCE = Duration.ofMinutes(2);

    private static final List<String> TAKEN_OVER = List.of(
            "sslmode",
            "sslrootcert",
            "sslcert",
            "sslkey",
            "service",
            "passfile",
            "connect_timeout",
            "options",
            "target_session_attrs");
    private static final Pattern SCHEMA = Pattern.compile("[a-z][a-z0-9_]{0,62}");

    public SharedAddress {
        hosts = List.copyOf(hosts);
        options = Map.copyOf(options);
    }

    /// @param schema see [#schemaFor]
    /// @throws InputRefused when it is not such a URI, or holds a password
    public static SharedAddress parse(String uri, String schema) {
        Matcher parts = URI.matcher(uri.strip());
        if (!parts.matches()) {
            throw refused(uri, "it is not of the form postgresql://user@host:port/database");
        }
        String user = decoded(parts.group("user"));
        if (user.contains(":")) {
            throw refused(
                    uri.replaceFirst(":[^:@/]*@", ":…@"),
                    "it holds a password, which would stay in the project's folder for all to read");
        }
        if (!SCHEMA.matcher(schema).matches()) {
            throw refused(
                    schema, "a schema's name has small letters, digits and underscores, and begins with a letter");
        }
        var options = new TreeMap<String, String>();
        for (String option :
                Optional.ofNullable(parts.group("options")).orElse("").split("&", -1)) {
            if (!option.isEmpty()) {
                String name = option.replaceFirst("=.*", "");
                if (!TAKEN_OVER.contains(name)) {
                    throw refused(uri, "the parameter " + name + " is not one of " + String.join(", ", TAKEN_OVER));
                }
                options.put(name, decoded(option.substring(Math.min(option.length(), name.length() + 1))));
            }
        }
        var hosts = new ArrayList<String>();
        for (String host : parts.group("hosts").split(",", -1)) {
            if (!host.isBlank()) {
                hosts.add(host.strip());
            }
        }
        if (hosts.isEmpty() && !options.containsKey("service")) {
            throw refused(uri, "it names no host and no service");
        }
        return new SharedAddress(hosts, decoded(parts.group("database")), user, options, schema);
    }

    private static String decoded(@org.jspecify.annotations.Nullable String text) {
        return text == null ? "" : URLDecoder.decode(text.replace("+", "%2B"), StandardCharsets.UTF_8);
    }

    private static InputRefused refused(String what, String why) {
        return new InputRefused(new Problem(
                "This is no address of a shared project: " + what,
                why,
                "Nothing was changed.",
                "Give it as postgresql://user@host:5432/database, and the password in ~/.pgpass, PGPASSWORD or a"
                        + " service file."));
    }

    /// A name for the schema of a project.
    public static String schemaFor(String project) {
        String plain =
                project.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "_").replaceAll("^[_0-9]+|_$", "");
        return plain.isEmpty() ? "project" : plain.substring(0, Math.min(plain.length(), 50));
    }

    /// A script for psql that makes roles with fewer rights for this project.
    public String roles() {
        try (InputStream script = SharedAddress.class.getResourceAsStream("postgresql-roles.sql")) {
            if (script == null) {
                throw new IllegalStateException("the program lacks its script of roles");
            }
            return new String(script.readAllBytes(), StandardCharsets.UTF_8).replace("${schema}", schema);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /// As it was given, with the parameters in order.
    public String uri() {
        var text = new StringBuilder("postgresql://");
        if (!user.isEmpty()) {
            text.append(encoded(user)).append('@');
        }
        text.append(String.join(",", hosts)).append('/').append(encoded(database));
        var each = new ArrayList<String>();
        new TreeMap<>(options).forEach((name, value) -> each.add(name + "=" + encoded(value)));
        return each.isEmpty() ? text.toString() : text + "?" + String.join("&", each);
    }

    /// For messages: where it is and in which schema.
    public String inWords() {
        return uri() + ", schema " + schema;
    }

    private static String encoded(String text) {
        return java.net.URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }

    /// How the server is known to be the right one and who can listen, by libpq's names. Where nothing was
    /// said: not at all on this machine, and on others only to a server whose certificate is of its name.
    public String tls() {
        boolean here = !hosts.isEmpty()
                && hosts.stream().allMatch(host -> THIS_MACHINE.contains(host.replaceFirst(":\\d+$", "")));
        return options.getOrDefault("sslmode", here ? "prefer" : "verify-full");
    }

    /// How long a connection is waited for.
    Duration patience() {
        String seconds = options.getOrDefault("connect_timeout", "8");
        return Duration.ofSeconds(seconds.matches("[1-9]\\d{0,3}") ? Long.parseLong(seconds) : 8);
    }

    String jdbcUrl() {
        return "jdbc:postgresql://" + String.join(",", hosts) + "/" + encoded(database);
    }

    /// How all connections of a program begin their names, by which the server knows them.
    static String programName(String program) {
        return "dock-sort " + program.substring(0, 4);
    }

    Properties properties(Desk desk, String program, Password typed) {
        var properties = new Properties();
        if (!user.isEmpty()) {
            properties.setProperty("user", user);
        }
        typed.text()
                .or(() -> Optional.ofNullable(System.getenv("PGPASSWORD")).filter(password -> !password.isEmpty()))
                .ifPresent(password -> properties.setProperty("password", password));
        properties.setProperty("currentSchema", schema);
        properties.setProperty("sslmode", tls());
        properties.setProperty("ApplicationName", programName(program) + " " + schema + " " + desk.workstation());
        properties.setProperty("tcpKeepAlive", "true");
        properties.setProperty("socketTimeout", Long.toString(SILENCE.toSeconds()));
        properties.setProperty(
                "options",
                ("-c idle_in_transaction_session_timeout=" + FROZEN.toMillis() + " "
                                + options.getOrDefault("options", ""))
                        .strip());
        properties.setProperty("connectTimeout", Long.toString(patience().toSeconds()));
        for (String name : List.of("sslrootcert", "sslcert", "sslkey", "service", "passfile")) {
            Optional.ofNullable(options.get(name)).ifPresent(value -> properties.setProperty(name, value));
        }
        Optional.ofNullable(options.get("target_session_attrs"))
                .ifPresent(attributes -> properties.setProperty(
                        "targetServerType", attributes.equals("read-write") ? "primary" : attributes));
        return properties;
    }
}
