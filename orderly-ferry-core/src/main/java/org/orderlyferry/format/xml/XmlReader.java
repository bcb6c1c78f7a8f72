package org.orderlyferry.format.xml;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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
    private static final int UNKNOWN = -2;

    private static final int NULL = -1;

    private final XmlInput input;
    private final String source;
    private final XmlRecords records;
    private final TableDefinition table;
    /** Where each column's values go. */
    private final Map<String, Integer> columns = new HashMap<>();
    /** The same, by the names that the document uses. */
    private final Map<String, Integer> places = new HashMap<>();

    private final int[] starts;
    private final int[] ends;
    /** Whether a column has had a value in this record. */
    private final boolean[] given;
    /** Whether its value is markup. */
    private final boolean[] markup;
    /** Whether its value is several elements already. */
    private final boolean[] several;

    private final boolean[] binary;
    private final Rejects rejects;
    private FerryException wrong;

    XmlReader(
            XmlInput input,
            String source,
            XmlLayout layout,
            TableDefinition whole,
            List<String> wanted,
            Rejects rejects) {
        this.input = input;
        this.source = source;
        this.records = new XmlRecords(input, layout, XmlNames.of(whole.name().name()));
        this.table = whole.withColumns(wanted);
        this.rejects = rejects;
        whole.columnNames().forEach(n -> columns.put(n, UNWANTED));
        for (int i = 0; i < wanted.size(); i++) {
            columns.put(wanted.get(i), i);
        }
        this.starts = new int[wanted.size()];
        this.ends = new int[wanted.size()];
        this.given = new boolean[wanted.size()];
        this.markup = new boolean[wanted.size()];
        this.several = new boolean[wanted.size()];
        this.binary = new boolean[wanted.size()];
        for (int i = 0; i < binary.length; i++) {
            binary[i] = table.columns().get(i).type().name().isBinary();
        }
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(starts.length, table.name().toString(), source, true);
        XmlFields fields = new XmlFields(input, batch);
        while (!batch.isFull() && records.next()) {
            long line = input.line();
            Arrays.fill(ends, NULL);
            Arrays.fill(given, false);
            Arrays.fill(several, false);
            wrong = null;
            fields.read((name, start, end, nested) -> take(batch, name, start, end, nested, line));
            try {
                if (wrong != null) {
                    throw wrong;
                }
                for (int i = 0; i < binary.length; i++) {
                    if (binary[i] && ends[i] >= 0) {
                        decode(batch, i, line);
                    }
                }
                batch.addRow(starts, ends, line);
            } catch (BadValueException | MalformedFileException e) {
                batch.dropRow();
                rejects.reject(e);
            }
        }
        return batch.rows() > 0;
    }

    private void take(RecordBatch batch, String name, int start, int end, boolean nested, long line) {
        Integer found = places.get(name);
        int place = found != null ? found : columns.getOrDefault(XmlNames.back(name), UNKNOWN);
        if (found == null && place != UNKNOWN) {
            places.put(name, place);
        }
        if (place == UNKNOWN) {
            wrong = new MalformedFileException(
                    input.origin(line),
                    "the record has a value " + XmlNames.back(name) + " that isn't in the definition");
        } else if (place != UNWANTED && !given[place]) {
            given[place] = true;
            starts[place] = start;
            ends[place] = end;
            markup[place] = nested;
        } else if (place != UNWANTED) {
            again(batch, place, XmlNames.back(name), element(batch, name, start, end, nested), line);
        }
    }

    /** Several values of one name stay what they are, one element after the other. */
    private void again(RecordBatch batch, int place, String name, String element, long line) {
        if (table.columns().get(place).type().name() != TypeName.XML) {
            wrong = new MalformedFileException(input.origin(line), "the value " + name + " stands there twice");
            return;
        }
        String before = several[place]
                ? text(batch, starts[place], ends[place])
                : element(batch, XmlNames.of(name), starts[place], ends[place], markup[place]);
        several[place] = true;
        starts[place] = batch.size();
        batch.append(before + element);
        ends[place] = batch.size();
    }

    private static String element(RecordBatch batch, String tag, int start, int end, boolean nested) {
        String text = end < 0 ? "" : text(batch, start, end);
        return "<" + tag + ">" + (nested ? text : XmlFields.escaped(text)) + "</" + tag + ">";
    }

    private static String text(RecordBatch batch, int start, int end) {
        return new String(batch.bytes(), start, end - start, StandardCharsets.UTF_8);
    }

    /** Undoes base64 in place, where it always takes less room; XML lets white space stand between its characters. */
    private void decode(RecordBatch batch, int i, long line) {
        byte[] bytes = batch.bytes();
        int end = starts[i];
        for (int at = starts[i]; at < ends[i]; at++) {
            byte b = bytes[at];
            if (b != ' ' && b != '\n' && b != '\r' && b != '\t') {
                bytes[end++] = b;
            }
        }
        byte[] text = Arrays.copyOfRange(bytes, starts[i], end);
        try {
            byte[] value = Base64.getDecoder().decode(text);
            System.arraycopy(value, 0, bytes, starts[i], value.length);
            ends[i] = starts[i] + value.length;
        } catch (IllegalArgumentException e) {
            throw new BadValueException(
                    input.origin(line),
                    table.columns().get(i).name(),
                    new String(text, StandardCharsets.UTF_8),
                    "isn't base64, as binary values are written in a text file");
        }
    }

    @Override
    public void close() {
        input.close();
    }
}
