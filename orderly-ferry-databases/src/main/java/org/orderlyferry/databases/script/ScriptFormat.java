package org.orderlyferry.databases.script;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.databases.dump.DumpScript;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Scripts of SQL. */
public final class ScriptFormat implements FileFormat {

    private static final String TINYINT = "tinyint";

    /** A line that sends to SQL Server what stands before it. */
    private static final Pattern BATCH = Pattern.compile("(?im)^\\s*GO\\s*$");

    private static final int HEAD = 256 * 1024;
    private static final int ROWS = 500;

    @Override
    public String name() {
        return "SQL script";
    }

    @Override
    public List<String> endings() {
        return List.of("sql");
    }

    @Override
    public boolean looksLike(byte[] head) {
        if (DumpScript.isDump(head)) {
            return true;
        }
        String text = ScriptEncoding.text(head);
        // a database's own file holds such words too, and zeros in between
        return text.indexOf(0) < 0
                && text.matches("(?is).*\\b(CREATE TABLE|INSERT INTO)\\b.*")
                && (text.indexOf(';') > 0 || BATCH.matcher(text).find());
    }

    @Override
    public Optional<FileSource> wholeFolder(Path folder, Function<Path, FileSource> file) throws IOException {
        return DumpScript.of(folder, file);
    }

    /** The file as a script, which a dump of another form stands for. */
    private static FileSource asScript(FileSource file) {
        try {
            return DumpScript.of(file);
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }

    @Override
    public boolean holdsSeveralTables() {
        return true;
    }

    @Override
    public boolean isDescribedBeside() {
        return false;
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "CREATE TABLE, keys, references, checks, indexes, collations, comments and counters, as the chosen system has them",
                "NULL and ''",
                "as literals of the chosen system; what is left to a counter, or to DEFAULT, is read as the server would give it",
                List.of(
                        "what the chosen system can't hold is refused or told, as when it is loaded",
                        "INSERT … SELECT, UPDATE and the like are told and not done when read: no server runs them",
                        "PostgreSQL's dumps in one file, in a tar file and in a folder are read as the scripts that they stand"
                                + " for, unless LZ4 compresses them; large objects stay behind"));
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                new Setting(
                        "dialect",
                        "found when read, postgresql when written",
                        "Whose SQL it is: " + names()
                                + ". Found by the marks of tools, or by words that one system alone has."),
                new Setting(
                        "bulk",
                        "false",
                        "Whether PostgreSQL's records stand in COPY blocks, which its own shell reads, when"
                                + " written."),
                new Setting("encoding", "told by the script, else UTF-8", "Of its texts, when read; UTF-8 is written."),
                new Setting(
                        TINYINT,
                        "boolean",
                        "What a column of MariaDB's tinyint(1) is, when read: boolean, or smallint where it has other"
                                + " values than 0 and 1."),
                new Setting("rows", Integer.toString(ROWS), "How many records a statement has, when written."));
    }

    private static boolean areNumbers(FileSettings settings) {
        String said = settings.text(TINYINT, "boolean");
        if (!said.equals("boolean") && !said.equals("smallint")) {
            throw new UsageException("tinyint is boolean or smallint, and not " + said);
        }
        return said.equals("smallint");
    }

    private static List<SystemSql> dialects() {
        List<SystemSql> dialects = new ArrayList<>();
        ServiceLoader.load(Dialect.class).forEach(dialects::add);
        ServiceLoader.load(SystemSql.class).forEach(dialects::add);
        return dialects;
    }

    private static String names() {
        return dialects().stream().map(ScriptFormat::name).sorted().collect(Collectors.joining(", "));
    }

    /** A system's name as a setting has it. */
    private static String name(SystemSql system) {
        return system.system().toLowerCase(Locale.ROOT).replace(" ", "");
    }

    private static SystemSql dialect(String name) {
        return dialects().stream()
                .filter(d -> name(d).equalsIgnoreCase(name))
                .findFirst()
                .orElseThrow(() -> new UsageException("there is no dialect " + name + "; there are " + names()));
    }

    @Override
    public void check(FileSettings settings) {
        FileFormat.super.check(settings);
        settings.text("dialect").ifPresent(ScriptFormat::dialect);
        areNumbers(settings);
        if (settings.flag("bulk", false)
                && !settings.text("dialect", "postgresql").equals("postgresql")) {
            throw new UsageException("only scripts for PostgreSQL can hold their records in bulk");
        }
        if (settings.count("rows", ROWS) < 1) {
            throw new UsageException("a statement has at least one record");
        }
    }

    /** Whose SQL a file is, and in which encoding. */
    private record Found(SystemSql dialect, Charset encoding) {

        ScriptInput open(FileSource file) {
            return new ScriptInput(file, encoding, dialect.scripting());
        }
    }

    /** What was told, or what the file's beginning tells by the marks of systems' tools. */
    private static Found find(FileSource file, FileSettings settings) {
        byte[] bytes;
        try (InputStream in = file.open()) {
            bytes = in.readNBytes(HEAD);
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
        String head = ScriptEncoding.text(bytes);
        SystemSql dialect = settings.text("dialect")
                .map(ScriptFormat::dialect)
                .or(() -> dialects().stream()
                        .filter(d -> d.scripting().marks().stream().anyMatch(head::contains))
                        .findFirst())
                .or(() -> UnmarkedScript.dialect(head, dialects()))
                .orElseThrow(() -> new UsageException("whose SQL " + file.shown()
                        + " is can't be told from its beginning; the setting dialect says it: " + names()));
        return new Found(
                dialect,
                ScriptEncoding.of(bytes, head, settings, dialect.scripting().hasBackslashes()));
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        ScriptTables script = script(asScript(file), settings).tables();
        List<TableDefinition> tables = areNumbers(settings)
                ? script.tables().stream().map(SmallNumbers::of).toList()
                : script.tables();
        if (tables.isEmpty()) {
            throw new UsageException(file.shown() + " makes no table");
        }
        List<Outline> outlines = new ArrayList<>();
        for (TableDefinition table : tables) {
            outlines.add(new Outline(
                    table,
                    Outline.Source.DEFINITIONS,
                    List.of(),
                    outlines.isEmpty() ? script.leftBehind() : List.of()));
        }
        return outlines;
    }

    /** What a script on the disk was found to hold: each of its tables asks for it. */
    private record Known(Path path, long size, Object modified, FileSettings settings) {}

    /** Whose SQL a script is, its tables, and where it is read from. */
    private record Script(Found found, ScriptTables tables, FileSource file) {}

    private static final int MOST_KNOWN = 4;
    private static final Map<Known, Script> KNOWN =
            Collections.synchronizedMap(new LinkedHashMap<>(MOST_KNOWN, 0.75f, true) {
                private static final long serialVersionUID = 1L;

                @Override
                protected boolean removeEldestEntry(Map.Entry<Known, Script> eldest) {
                    boolean goes = size() > MOST_KNOWN;
                    if (goes && eldest.getValue().file() instanceof UnpackedScript unpacked) {
                        // who still reads it goes on, but where an open file can't be removed
                        unpacked.remove();
                    }
                    return goes;
                }
            });

    private static Script script(FileSource file, FileSettings settings) {
        Optional<Known> key = key(file, settings);
        Script known = key.map(KNOWN::get).orElse(null);
        if (known == null) {
            Found found = find(file, settings);
            ScriptTables tables = new ScriptTables(found.dialect());
            long size;
            try (ScriptInput input = found.open(file)) {
                tables.read(input);
                size = input.position();
            }
            known = new Script(
                    found,
                    tables,
                    key.isPresent() ? UnpackedScript.of(file, tables.tables().size(), size) : file);
            if (key.isPresent()) {
                KNOWN.put(key.get(), known);
            }
        }
        return known;
    }

    /** Where it stands, also one that is compressed, and so not on the disk as it is read. */
    private static Path named(FileSource file) {
        return file.onDisk().orElseGet(() -> Path.of(file.shown()));
    }

    private static Optional<Known> key(FileSource file, FileSettings settings) {
        Path named = named(file);
        Path path = Files.isDirectory(named) ? named.resolve(DumpScript.TOC) : named;
        try {
            if (!Files.isRegularFile(path)) {
                return Optional.empty();
            }
            return Optional.of(new Known(path, Files.size(path), Files.getLastModifiedTime(path), settings));
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }

    @Override
    public RecordReader read(
            FileSource source, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects) {
        FileSource file = asScript(source);
        Script script = script(file, settings);
        // parts of a dump in a folder may go while its contents stay as they were
        Found found = Files.isDirectory(named(file)) ? find(file, settings) : script.found();
        List<ScriptIndex.Stretch> stretches =
                script.tables().index().of(table.name().name());
        return new ScriptReader(
                found.open(script.file()), file.shown(), found.dialect(), stretches, table, columns, rejects);
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        if (!settings.encoding("encoding", StandardCharsets.UTF_8).equals(StandardCharsets.UTF_8)) {
            throw new UsageException("a script is written in UTF-8, and not in "
                    + settings.text("encoding").orElseThrow());
        }
        return new ScriptWriter(
                out,
                shown,
                dialect(settings.text("dialect", "postgresql")),
                settings.count("rows", ROWS),
                settings.flag("bulk", false),
                tables);
    }
}
