package org.orderlyferry.format.xml;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.OpenedFiles;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.SideFile;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** XML with an XML Schema. */
public final class XmlFormat implements FileFormat {

    static final String SCHEMA = ".xsd";

    @Override
    public String name() {
        return "XML";
    }

    @Override
    public List<String> endings() {
        return List.of("xml");
    }

    @Override
    public boolean looksLike(byte[] head) {
        String text = new String(head, 0, Math.min(head.length, 400), StandardCharsets.ISO_8859_1);
        return text.replace("\u00EF\u00BB\u00BF", "").stripLeading().matches("(?s)<(\\?xml|!--|[A-Za-z_]).*");
    }

    @Override
    public boolean holdsSeveralTables() {
        return true;
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "a CSVW description and an XML Schema (with xs:key, xs:unique and xs:keyref) beside the file",
                "null is an element that isn't there, and empty text is an empty one",
                "every value as its value text, which is XML Schema's own; binary values in base64",
                List.of(
                        "XML 1.0 has no control characters but tab, line feed and carriage return: such values are"
                                + " refused; version=1.1 has all but U+0000",
                        "no version has U+FFFE and U+FFFF"));
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                new Setting("record", "", "The element that is a record, in a document of somebody else's."),
                new Setting("style", "elements", "Whether values are elements or attributes when written."),
                new Setting(
                        StyleSheet.SETTING,
                        "",
                        "The file of a style sheet (XSLT 1.0) through which a document goes before it is read, or after it was"
                                + " written; up to 64 MB, since it is held in memory."),
                new Setting("version", "1.0", "1.0, or 1.1 which has control characters, when written."));
    }

    @Override
    public void check(FileSettings settings) {
        FileFormat.super.check(settings);
        if (!Set.of("elements", "attributes").contains(settings.text("style", "elements"))) {
            throw new UsageException("the style is elements or attributes, not '" + settings.text("style", "") + "'");
        }
        if (!Set.of("1.0", "1.1").contains(settings.text("version", "1.0"))) {
            throw new UsageException("the version is 1.0 or 1.1, not '" + settings.text("version", "") + "'");
        }
    }

    @Override
    public List<Outline> outline(FileSource document, FileSettings settings) {
        FileSource file = read(document, settings);
        XmlLayout layout = XmlLayout.of(file, settings);
        Optional<FileSource> schema = file.beside(file.baseName() + SCHEMA);
        if (schema.isPresent()) {
            List<TableDefinition> tables = new XsdReader(schema.get()).read(layout, file);
            return tables.stream()
                    .map(t -> new Outline(t, Outline.Source.DEFINITIONS))
                    .toList();
        }
        Map<String, Map<String, Boolean>> tables = new LinkedHashMap<>();
        try (XmlInput input = new XmlInput(file, "")) {
            XmlRecords records = new XmlRecords(input, layout, "");
            RecordBatch batch = new RecordBatch();
            XmlFields fields = new XmlFields(input, batch);
            while (records.next()) {
                batch.start(0, "", file.shown(), true);
                String name = layout.kind() == XmlLayout.Kind.SEVERAL_TABLES
                        ? XmlNames.back(records.table())
                        : layout.table(file);
                Map<String, Boolean> columns = tables.computeIfAbsent(name, n -> new LinkedHashMap<>());
                Set<String> seen = new HashSet<>();
                fields.read((field, start, end, nested) -> {
                    String column = XmlNames.back(field);
                    columns.merge(column, nested || !seen.add(column), Boolean::logicalOr);
                });
            }
        }
        List<Outline> outlines = new ArrayList<>();
        tables.forEach((name, columns) -> {
            if (!columns.isEmpty()) {
                TableDefinition.Builder table = TableDefinition.named(name);
                columns.forEach((column, nested) -> table.column(column, nested ? LogicalType.XML : LogicalType.CLOB));
                outlines.add(new Outline(table.build(), Outline.Source.NAMES));
            }
        });
        if (outlines.isEmpty()) {
            throw new UsageException(file.shown() + " has no records with values, so its columns aren't known; the"
                    + " setting record tells which element is a record");
        }
        return outlines;
    }

    @Override
    public RecordReader read(
            FileSource document, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects) {
        FileSource file = read(document, settings);
        XmlLayout layout = XmlLayout.of(file, settings);
        FileSource part = layout.kind() == XmlLayout.Kind.SEVERAL_TABLES ? alone(file, table) : file;
        return new XmlReader(
                new XmlInput(part, table.name().toString()), file.shown(), layout, table, columns, rejects);
    }

    /** The part of a document in which a table is, where there is one. */
    private static FileSource alone(FileSource file, TableDefinition table) {
        if (!file.opened().isKeeping() || file.seekable().isEmpty()) {
            return file;
        }
        try (OpenedFiles.Lent<TablePlaces> places = file.opened().take(TablePlaces.class, () -> TablePlaces.of(file))) {
            return places.opened().alone(file, XmlNames.of(table.name().name())).orElse(file);
        }
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        OutputStream into = StyleSheet.of(settings)
                .<OutputStream>map(sheet -> sheet.before(out, shown))
                .orElse(out);
        return new XmlWriter(
                into,
                shown,
                tables,
                isAttributes(settings),
                settings.text("version", "1.0").equals("1.1"));
    }

    private static FileSource read(FileSource document, FileSettings settings) {
        return StyleSheet.of(settings).map(sheet -> sheet.applied(document)).orElse(document);
    }

    private static boolean isAttributes(FileSettings settings) {
        return settings.text("style", "elements").equals("attributes");
    }

    @Override
    public List<SideFile> sideFiles(String baseName, List<TableDefinition> tables, FileSettings settings) {
        if (settings.text(StyleSheet.SETTING).isPresent()) {
            // nobody knows what it has become
            return List.of();
        }
        return List.of(new SideFile(baseName + SCHEMA, new XsdWriter(tables, isAttributes(settings)).write()));
    }
}
