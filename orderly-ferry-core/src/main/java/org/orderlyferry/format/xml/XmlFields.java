package org.orderlyferry.format.xml;

import java.util.function.BiConsumer;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamReader;

/** Takes the values out of a record's element: its attributes, and the elements in it. */
final class XmlFields {

    private static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";

    private final XmlInput input;

    XmlFields(XmlInput input) {
        this.input = input;
    }

    /**
     * A value of a record.
     *
     * @param text null for a null
     * @param nested whether it holds elements, and the text their markup
     */
    record Value(String text, boolean nested) {}

    /** Hands on each name, as it is in XML, with its value, and goes behind the record's end. */
    void read(BiConsumer<String, Value> sink) {
        XMLStreamReader reader = input.reader();
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            if (!XSI.equals(reader.getAttributeNamespace(i))) {
                sink.accept(reader.getAttributeLocalName(i), new Value(reader.getAttributeValue(i), false));
            }
        }
        while (input.nextElement()) {
            String name = input.name();
            boolean nil = reader.getAttributeCount() > 0 && "true".equals(reader.getAttributeValue(XSI, "nil"));
            Value value = value();
            sink.accept(name, nil ? new Value(null, false) : value);
        }
    }

    /** As a rule, one piece of text and nothing else. */
    private Value value() {
        int event = input.next();
        if (event == XMLStreamConstants.END_ELEMENT) {
            return new Value("", false);
        }
        if (event == XMLStreamConstants.CHARACTERS) {
            String text = input.reader().getText();
            int behind = input.next();
            return behind == XMLStreamConstants.END_ELEMENT ? new Value(text, false) : pieces(text, behind);
        }
        return pieces("", event);
    }

    private Value pieces(String begun, int first) {
        StringBuilder text = new StringBuilder(begun);
        int event = first;
        int depth = 0;
        boolean nested = false;
        while (true) {
            switch (event) {
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA, XMLStreamConstants.SPACE -> {
                    String piece = input.reader().getText();
                    text.append(nested ? escaped(piece) : piece);
                }
                case XMLStreamConstants.START_ELEMENT -> {
                    if (!nested) {
                        String before = text.toString();
                        text.setLength(0);
                        text.append(escaped(before));
                        nested = true;
                    }
                    depth++;
                    begin(text);
                }
                case XMLStreamConstants.END_ELEMENT -> {
                    if (depth == 0) {
                        return new Value(nested ? text.toString().strip() : text.toString(), nested);
                    }
                    depth--;
                    text.append("</").append(input.name()).append('>');
                }
                case XMLStreamConstants.END_DOCUMENT -> {
                    return new Value(text.toString(), nested);
                }
                default -> {
                    // comments and instructions are no part of a value
                }
            }
            event = input.next();
        }
    }

    private void begin(StringBuilder text) {
        XMLStreamReader reader = input.reader();
        text.append('<').append(input.name());
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            text.append(' ')
                    .append(reader.getAttributeLocalName(i))
                    .append("=\"")
                    .append(escaped(reader.getAttributeValue(i)).replace("\"", "&quot;"))
                    .append('"');
        }
        text.append('>');
    }

    static String escaped(String text) {
        return text.replace("&", "&amp;")
                .replace("<", "&lt;")
                .replace(">", "&gt;")
                .replace("\r", "&#13;");
    }
}
