package org.orderlyferry.format.xml;

import java.nio.charset.StandardCharsets;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamReader;
import org.orderlyferry.record.RecordBatch;

/** Takes the values out of a record's element: its attributes, and the elements in it. */
final class XmlFields {

    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";

    /** What a record's own text is called, which stands beside its elements or instead of them. */
    static final String OWN = "value";

    /** What stands between the name of a value's element and that of an attribute of it. */
    static final String PATH = ".";

    private final XmlInput input;
    private final RecordBatch batch;
    /** The first half of a surrogate pair whose second half is in the next piece of text; 0 for none. */
    private char half;
    /** Whether the value that was read last holds elements. */
    private boolean nested;

    /** The values' text goes into the batch's bytes, and becomes a value of it when all of a record has been seen. */
    XmlFields(XmlInput input, RecordBatch batch) {
        this.input = input;
        this.batch = batch;
    }

    /** What takes the values. */
    interface Sink {
        /**
         * Takes a value of a record.
         *
         * @param name as it is in XML
         * @param start where its text begins in the batch's bytes
         * @param end where it ends; negative for a null
         * @param nested whether it holds elements, and the text is their markup
         */
        void take(String name, int start, int end, boolean nested);
    }

    /** Hands on each of the record's values, and goes behind its end. */
    void read(Sink sink) {
        XMLStreamReader reader = input.reader();
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            if (!XSI.equals(reader.getAttributeNamespace(i))) {
                int start = batch.size();
                batch.append(reader.getAttributeValue(i));
                sink.take(reader.getAttributeLocalName(i), start, batch.size(), false);
            }
        }
        StringBuilder own = null;
        for (int event = input.next();
                event != XMLStreamConstants.END_ELEMENT && event != XMLStreamConstants.END_DOCUMENT;
                event = input.next()) {
            if (event == XMLStreamConstants.START_ELEMENT) {
                String name = input.name();
                boolean nil = reader.getAttributeCount() > 0 && attributes(name, sink);
                int start = value();
                sink.take(name, start, nil ? -1 : batch.size(), nested);
            } else if (reader.hasText() && event != XMLStreamConstants.COMMENT && !reader.isWhiteSpace()) {
                own = own == null ? new StringBuilder() : own;
                own.append(reader.getText());
            }
        }
        if (own != null) {
            int start = batch.size();
            batch.append(own.toString().strip());
            sink.take(OWN, start, batch.size(), false);
        }
    }

    /** Hands on the attributes of a value's element by the paths to them; tells whether they say that it is null. */
    private boolean attributes(String name, Sink sink) {
        XMLStreamReader reader = input.reader();
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            if (!XSI.equals(reader.getAttributeNamespace(i))) {
                int start = batch.size();
                batch.append(reader.getAttributeValue(i));
                sink.take(name + PATH + reader.getAttributeLocalName(i), start, batch.size(), false);
            }
        }
        return "true".equals(reader.getAttributeValue(XSI, "nil"));
    }

    /** Reads a value, as a rule one piece of text and nothing else; gives where it begins. */
    private int value() {
        int start = batch.size();
        half = 0;
        nested = false;
        while (true) {
            switch (input.next()) {
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA, XMLStreamConstants.SPACE -> text();
                case XMLStreamConstants.START_ELEMENT -> {
                    return nested(start);
                }
                case XMLStreamConstants.END_ELEMENT, XMLStreamConstants.END_DOCUMENT -> {
                    return start;
                }
                default -> {
                    // comments and instructions are no part of a value
                }
            }
        }
    }

    /** A long text comes in pieces, which may part a surrogate pair. */
    private void text() {
        XMLStreamReader reader = input.reader();
        char[] chars = reader.getTextCharacters();
        int from = reader.getTextStart();
        int length = reader.getTextLength();
        if (half != 0 && length > 0) {
            batch.append(new char[] {half, chars[from]}, 0, 2);
            half = 0;
            from++;
            length--;
        }
        if (length > 0 && Character.isHighSurrogate(chars[from + length - 1])) {
            half = chars[from + length - 1];
            length--;
        }
        batch.append(chars, from, length);
    }

    /** Reads on from the first element in a value, whose text until there is in the batch. */
    private int nested(int begun) {
        nested = true;
        String before = new String(batch.bytes(), begun, batch.size() - begun, StandardCharsets.UTF_8);
        String markup = new Markup(input, escaped(before)).read();
        int start = batch.size();
        batch.append(markup.strip());
        return start;
    }

    static String escaped(String text) {
        return text.replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\r", "&#13;");
    }
}
