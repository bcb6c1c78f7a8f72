package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.Column;
import com.healthmarketscience.jackcess.Table;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.orderlyferry.format.ColumnMatch;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.OpenedFiles;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Desktop databases of Microsoft Access. */
public final class AccessFormat implements FileFormat {

    @Override
    public String name() {
        return "desktop database";
    }

    @Override
    public List<String> endings() {
        return List.of("accdb", "mdb");
    }

    @Override
    public boolean looksLike(byte[] head) {
        return AccessInput.looksLike(head);
    }

    @Override
    public boolean holdsSeveralTables() {
        return true;
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "types, keys, relationships with their rules, indexes, counters, comments in the file; a CSVW description"
                        + " beside it",
                "null is null, and empty text is one with no characters",
                "numbers of up to 28 digits, dates from the year 100 on, times to the millisecond (seven digits in an .accdb),"
                        + " truth values where they are never null; all else as text",
                List.of(
                        "a text column counts units of UTF-16; a value with more is refused",
                        "a text that begins with U+FEFF is refused",
                        "names have 64 characters and no points or brackets; others are changed, and told",
                        "a record takes no more than 4,000 bytes beside its long texts; one that does is refused",
                        "keys and unique indexes take texts that differ in the case of letters for the same",
                        "a relationship that records break is there without being enforced, and told",
                        "a file holds 2 GB",
                        "attachments, columns of several values, queries, forms and linked tables are left behind when read"));
    }

    @Override
    public List<Setting> settings() {
        return List.of();
    }

    @Override
    public List<TableName> tablesTold(FileSource file, FileSettings settings) {
        return outline(file, settings).stream().map(o -> o.table().name()).toList();
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        try (OpenedFiles.Lent<AccessInput> input = open(file)) {
            AccessDefinitions definitions = input.opened().definitions();
            List<TableDefinition> tables = List.copyOf(definitions.tables().values());
            if (tables.isEmpty()) {
                throw new UsageException(file.shown() + " has no tables");
            }
            List<Outline> outlines = new ArrayList<>();
            for (TableDefinition table : tables) {
                List<LeftBehind> left = outlines.isEmpty() ? definitions.leftBehind() : List.of();
                outlines.add(new Outline(table, Outline.Source.DEFINITIONS, List.of(), left));
            }
            return outlines;
        }
    }

    private static OpenedFiles.Lent<AccessInput> open(FileSource file) {
        return file.opened().take(AccessInput.class, () -> new AccessInput(file));
    }

    @Override
    public RecordReader read(
            FileSource file, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects) {
        OpenedFiles.Lent<AccessInput> input = open(file);
        try {
            Map<Table, TableDefinition> tables = input.opened().definitions().tables();
            Table found = tables.entrySet().stream()
                    .filter(e ->
                            e.getValue().name().toString().equals(table.name().toString()))
                    .map(Map.Entry::getKey)
                    .findFirst()
                    .or(() -> tables.size() == 1 ? tables.keySet().stream().findFirst() : java.util.Optional.empty())
                    .orElseThrow(() -> new UsageException("there is no table " + table.name() + " in " + file.shown()));
            List<String> names = tables.get(found).columnNames();
            ColumnMatch.check(
                    names, table.columnNames(), new Origin(table.name().toString(), file.shown(), 0, true));
            return new AccessReader(
                    input, file.shown(), table.withColumns(columns), found, columns(found, columns), rejects);
        } catch (IOException e) {
            input.close();
            throw input.opened().failed(e);
        } catch (RuntimeException e) {
            input.close();
            throw e;
        }
    }

    private static List<Column> columns(Table table, List<String> wanted) throws IOException {
        Map<String, Column> byName = new java.util.HashMap<>();
        for (Column column : table.getColumns()) {
            byName.put(AccessDefinitions.name(column), column);
        }
        return wanted.stream().map(byName::get).toList();
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        return new AccessWriter(out, shown, tables);
    }
}
