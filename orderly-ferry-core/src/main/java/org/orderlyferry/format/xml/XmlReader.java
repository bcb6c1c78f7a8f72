package org.orderlyferry.format.xml;

import java.util.Arrays;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Reads records; values go by the names of elements and attributes, and one that is missing is null. */
final class XmlReader implements RecordReader {

    private static final int UNWANTED = -1;

    private final XmlInput input;
    private final String source;
    private final XmlRecords records;
    private final XmlFields fields;
    private final TableDefinition table;
    private final Map<String, Integer> places = new HashMap<>();
    private final XmlFields.Value[] values;
    private final boolean[] marked;
    private final Rejects rejects;
    private FerryException wrong;

    XmlReader(
            XmlInput input,
            String source,
            XmlLayout layout,
            TableDefinition whole,
            List<String> columns,
            Rejects rejects) {
        this.input = input;
        this.source = source;
        this.records = new XmlRecords(input, layout, XmlNames.of(whole.name().name()));
        this.fields = new XmlFields(input);
        this.table = whole.withColumns(columns);
        this.rejects = rejects;
        whole.columnNames().forEach(n -> places.put(n, UNWANTED));
        for (int i = 0; i < columns.size(); i++) {
            places.put(columns.get(i), i);
        }
        this.values = new XmlFields.Value[columns.size()];
        this.marked = new boolean[columns.size()];
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(values.length, table.name().toString(), source, true);
        while (!batch.isFull() && records.next()) {
            long line = input.line();
            Arrays.fill(values, null);
            Arrays.fill(marked, false);
            wrong = null;
            fields.read((name, value) -> take(XmlNames.back(name), value, line));
            try {
                if (wrong != null) {
                    throw wrong;
                }
                for (int i = 0; i < values.length; i++) {
                    add(batch, i, line);
                }
                batch.endRow(line);
            } catch (BadValueException | MalformedFileException e) {
                batch.dropRow();
                rejects.reject(e);
            }
        }
        return batch.rows() > 0;
    }

    private void take(String name, XmlFields.Value value, long line) {
        Integer place = places.get(name);
        if (place == null) {
            wrong = new MalformedFileException(
                    input.origin(line), "the record has a value " + name + " that isn't in the definition");
        } else if (place != UNWANTED) {
            boolean several = values[place] != null;
            if (several && table.columns().get(place).type().name() != TypeName.XML) {
                wrong = new MalformedFileException(input.origin(line), "the value " + name + " stands there twice");
            }
            if (several) {
                // several values of one name stay what they are, one element after the other
                String first = marked[place] ? values[place].text() : element(name, values[place]);
                marked[place] = true;
                values[place] = new XmlFields.Value(first + element(name, value), true);
            } else {
                values[place] = value;
            }
        }
    }

    private static String element(String name, XmlFields.Value value) {
        String tag = XmlNames.of(name);
        String inner = value.text() == null ? "" : value.nested() ? value.text() : XmlFields.escaped(value.text());
        return "<" + tag + ">" + inner + "</" + tag + ">";
    }

    private void add(RecordBatch batch, int i, long line) {
        XmlFields.Value value = values[i];
        ColumnDefinition column = table.columns().get(i);
        if (value == null || value.text() == null) {
            batch.addNull();
        } else if (column.type().name().isBinary()) {
            try {
                batch.add(Base64.getMimeDecoder().decode(value.text()));
            } catch (IllegalArgumentException e) {
                throw new BadValueException(
                        input.origin(line),
                        column.name(),
                        value.text(),
                        "isn't base64, as binary values are written in a text file");
            }
        } else {
            batch.add(value.text());
        }
    }

    @Override
    public void close() {
        input.close();
    }
}
