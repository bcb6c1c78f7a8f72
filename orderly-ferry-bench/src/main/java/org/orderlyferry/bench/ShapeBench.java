package org.orderlyferry.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.servers.LocalMaria;
import org.orderlyferry.testkit.servers.LocalPostgres;

/**
 * Whole commands, start of Java included, on tables of several shapes, next to the server's own client: {@code psql} where
 * it is on the machine, else a small program that does no more than it. In turns, medians of all rounds.
 * {@code -Dbench.part=0.1} takes tables a tenth as large; {@code -Dbench.shapes=wide,prose} some of them.
 */
public final class ShapeBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 5);
    private static final double PART = Double.parseDouble(System.getProperty("bench.part", "1"));
    private static final String SHAPES = System.getProperty("bench.shapes", "");

    private final Path folder;
    private final Commands commands;
    private final String postgres;
    private final String maria;
    private final boolean psql;
    private final List<String> lines = new ArrayList<>();

    private ShapeBench(Path folder, String postgres, String maria) throws InterruptedException {
        this.folder = folder;
        this.commands = new Commands(folder);
        this.postgres = postgres;
        this.maria = maria;
        this.psql = hasPsql();
    }

    /**
     * Runs it all.
     *
     * @param arguments where to write the table, in Markdown
     */
    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("ferry-shapes");
        Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwxrwxrwx"));
        try (LocalPostgres postgres = LocalPostgres.start("max_wal_size=4GB", "shared_buffers=256MB");
                LocalMaria maria = LocalMaria.start("--local-infile=1", "--innodb-buffer-pool-size=512M")) {
            ShapeBench bench = new ShapeBench(folder, postgres.url("postgres"), maria.url("test"));
            bench.run();
            String table = bench.table();
            System.out.println(table);
            if (arguments.length > 0) {
                Files.writeString(Path.of(arguments[0]), table);
            }
        } finally {
            Trees.remove(folder);
        }
    }

    private static boolean hasPsql() throws InterruptedException {
        try {
            return new ProcessBuilder("psql", "--version")
                            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                            .start()
                            .waitFor()
                    == 0;
        } catch (IOException e) {
            return false;
        }
    }

    private void run() throws Exception {
        Commands.sql(postgres, "CREATE DATABASE target");
        for (Shape shape : Shape.all(PART)) {
            if (SHAPES.isEmpty() || List.of(SHAPES.split(",")).contains(shape.name())) {
                Commands.sql(postgres, shape.statements().toArray(String[]::new));
                measure(shape);
                Commands.sql(postgres, "DROP TABLE " + shape.name());
                Commands.sql(target(), "DROP TABLE IF EXISTS " + shape.name());
                Commands.sql(maria, "DROP TABLE IF EXISTS " + shape.name());
            }
        }
        start();
    }

    private String target() {
        return postgres.replace("/postgres?", "/target?");
    }

    private void measure(Shape shape) throws Exception {
        String table = shape.name();
        Path csv = folder.resolve(table + ".csv");
        Path set = folder.resolve(table);
        String made = definition(table);
        Measure copyOut = Measure.of("COPY out", () -> copy(postgres, "out", table, csv));
        Measure export = Measure.of("export", () -> commands.ferry("export", postgres, set, table, "--overwrite"));
        Measure copyIn = Measure.of("COPY in", () -> copy(target(), "in", table, csv));
        Measure load = Measure.of("load", () -> commands.ferry("load", set, target(), table));
        Measure twice = Measure.of("COPY out twice", () -> {
            copy(postgres, "out", table, csv);
            copy(target(), "out", table, csv);
        });
        Measure reconcile = Measure.of("reconcile", () -> commands.ferry("reconcile", postgres, target(), table));
        Measure mariaLoad = Measure.of("load", () -> commands.ferry("load", set, maria, table, "--onto", "replace"));
        Measure loadData = Measure.of(
                "LOAD DATA", () -> plain("statement", maria + "&allowLocalInfile=true", loadData(table), csv));
        Measure mariaExport =
                Measure.of("export", () -> commands.ferry("export", maria, folder.resolve("m"), table, "--overwrite"));
        Measure mariaOut = Measure.of("stream", () -> plain("maria-out", maria, table, folder.resolve("m.tsv")));
        for (int round = 0; round < ROUNDS; round++) {
            copyOut.round();
            export.round();
            Commands.sql(target(), "DROP TABLE IF EXISTS " + table, made);
            copyIn.round();
            Commands.sql(target(), "DROP TABLE " + table);
            load.round();
            twice.round();
            reconcile.round();
            mariaLoad.round();
            Commands.sql(maria, "DROP TABLE IF EXISTS plain", "CREATE TABLE plain LIKE " + table);
            loadData.round();
            Commands.sql(maria, "DROP TABLE plain");
            mariaExport.round();
            mariaOut.round();
        }
        line(shape, "PostgreSQL export / COPY to CSV", export, copyOut);
        line(shape, "PostgreSQL load, key included / COPY in with the key in place", load, copyIn);
        line(shape, "reconcile by digests / COPY to CSV twice", reconcile, twice);
        line(shape, "MariaDB load / LOAD DATA LOCAL", mariaLoad, loadData);
        line(shape, "MariaDB export / a streamed query to a file", mariaExport, mariaOut);
    }

    private void line(Shape shape, String what, Measure ours, Measure baseline) {
        String line = String.format(
                Locale.ROOT,
                "| %s | %s | %.2f s | %.2f s | %.2f |",
                shape.name(),
                what,
                ours.median(),
                baseline.median(),
                ours.median() / baseline.median());
        System.out.println(line);
        lines.add(line);
    }

    private void start() throws Exception {
        Measure version = Measure.of("version", () -> commands.ferry("--version"));
        Path set = folder.resolve("small");
        commands.ferry("export", postgres, set, "--query", "one=SELECT 1 AS n");
        Measure look = Measure.of("look", () -> commands.ferry("look", set));
        Measure.rounds(ROUNDS, List.of(version, look));
        lines.add(String.format(Locale.ROOT, "| | `ferry --version` | %.2f s | | |", version.median()));
        lines.add(String.format(Locale.ROOT, "| | `ferry look` of a small set | %.2f s | | |", look.median()));
    }

    private String table() {
        return "| shape | whole command / the server's own client | ours | client | ratio |\n|---|---|---|---|---|\n"
                + String.join("\n", lines) + "\n";
    }

    /** The table as PostgreSQL has it, empty. */
    private String definition(String table) {
        try (Place place = Places.open(postgres)) {
            String columns = place.define(TableName.of(table)).columns().stream()
                    .map(c -> "\"" + c.name() + "\" " + c.sourceType())
                    .collect(Collectors.joining(", "));
            return "CREATE TABLE " + table + " (" + columns + ", PRIMARY KEY (id))";
        }
    }

    /** As COPY writes CSV: truth values by a letter, a null as nothing, bytes in hexadecimal. */
    private String loadData(String table) {
        List<String> into = new ArrayList<>();
        List<String> set = new ArrayList<>();
        try (Place place = Places.open(postgres)) {
            for (ColumnDefinition column : place.define(TableName.of(table)).columns()) {
                String value = "@" + column.name();
                into.add(value);
                String given = "NULLIF(" + value + ", '')";
                set.add("`" + column.name() + "` = "
                        + switch (column.type().name()) {
                            case BOOLEAN -> "CASE " + value + " WHEN 't' THEN 1 WHEN 'f' THEN 0 END";
                            case BLOB -> "UNHEX(SUBSTR(" + value + ", 3))";
                            default -> given;
                        });
            }
        }
        return "LOAD DATA LOCAL INFILE '" + folder.resolve(table + ".csv")
                + "' INTO TABLE plain CHARACTER SET utf8mb4 FIELDS TERMINATED BY ',' OPTIONALLY ENCLOSED BY '\"' ESCAPED BY ''"
                + " IGNORE 1 LINES (" + String.join(", ", into) + ") SET " + String.join(", ", set);
    }

    private void copy(String url, String way, String table, Path file) throws Exception {
        if (!psql) {
            plain("postgres-" + way, url, table, file);
            return;
        }
        String address = url.substring("jdbc:".length());
        String sql = way.equals("out")
                ? "\\copy " + table + " to '" + file + "' (format csv, header)"
                : "\\copy " + table + " from '" + file + "' (format csv, header)";
        commands.run(List.of("psql", "-q", address, "-c", sql));
    }

    private void plain(String... arguments) throws Exception {
        List<String> command = Commands.java(System.getProperty("java.class.path"), PlainCopy.class.getName(), false);
        // the driver looks through a long statement by recursion
        command.add(1, "-Xss64m");
        command.addAll(List.of(arguments));
        commands.run(command);
    }

    private void plain(String what, String url, String table, Path file) throws Exception {
        plain(what, url, table, file.toString());
    }
}
