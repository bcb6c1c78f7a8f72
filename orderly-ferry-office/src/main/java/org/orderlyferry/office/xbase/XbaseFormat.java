package org.orderlyferry.office.xbase;

import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import org.orderlyferry.format.ColumnMatch;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** xBase tables. */
public final class XbaseFormat implements FileFormat {

    @Override
    public String name() {
        return "xBase table";
    }

    @Override
    public List<String> endings() {
        return List.of("dbf");
    }

    @Override
    public boolean looksLike(byte[] head) {
        return XbaseHeader.looksLike(head);
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "types, lengths and decimals in the file; a CSVW description beside it",
                "null is a field of blanks, so empty text becomes null",
                "texts up to 254 bytes, numbers up to 20 digits, dates from the year 1 to 9999, truth values; longer"
                        + " texts, and what has no type of its own, as memos in a .dbt file beside it",
                List.of(
                        "empty text, and blanks at a text's end, are refused: blanks fill a field up",
                        "characters that the encoding doesn't have are refused; it is UTF-8 when written, unless told"
                                + " otherwise",
                        "names of fields have ten characters; longer ones are cut, and told",
                        "records that are marked as deleted are passed over, and counted"));
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                new Setting(
                        "encoding",
                        "told by the file when read, UTF-8 when written",
                        "Of its texts. Of a file that doesn't tell, each is taken for UTF-8 if it can be, else for"
                                + " windows-1252, and how many were is told."),
                new Setting(
                        "errors",
                        "reject",
                        "What becomes of a number that was too large for its field and is asterisks: reject, its record,"
                                + " or null, the value alone."));
    }

    @Override
    public void check(FileSettings settings) {
        FileFormat.super.check(settings);
        String errors = settings.text("errors", "reject");
        if (!errors.equals("reject") && !errors.equals("null")) {
            throw new UsageException("the setting errors is reject or null, not " + errors);
        }
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        XbaseHeader header = XbaseHeader.read(file, settings);
        TableDefinition.Builder table = TableDefinition.named(file.baseName());
        NumberSpread spread;
        try {
            spread = NumberSpread.of(file, header);
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
        List<XbaseField> fields = header.columns();
        for (int i = 0; i < fields.size(); i++) {
            table.column(ColumnDefinition.of(fields.get(i).name(), spread.type(i)));
        }
        return List.of(new Outline(
                table.build(), Outline.Source.DEFINITIONS, spread.findings(TableName.of(file.baseName())), List.of()));
    }

    @Override
    public RecordReader read(
            FileSource file, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects) {
        XbaseHeader header = XbaseHeader.read(file, settings);
        List<String> names = header.columns().stream().map(XbaseField::name).toList();
        // longer names than the file can have stand in the description, in the same order
        boolean cut = names.size() == table.columns().size()
                && java.util.stream.IntStream.range(0, names.size())
                        .allMatch(i -> XbaseNames.isCutOf(
                                names.get(i), table.columnNames().get(i)));
        if (!cut) {
            ColumnMatch.check(
                    names, table.columnNames(), new Origin(table.name().toString(), file.shown(), 0, true));
        }
        XbaseHeader named = cut ? header.withNames(table.columnNames()) : header;
        return new XbaseReader(file, named, table.withColumns(columns), settings, rejects);
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        if (tables.size() != 1) {
            throw new UsageException("an xBase table is one table, and these are " + tables.size()
                    + "; name one of them, or give a folder instead of " + shown);
        }
        return new XbaseWriter(out, shown, tables.get(0), settings);
    }
}
