package org.orderlyferry.format.xml;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.Map;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamReader;

/**
 * What stands in a value that holds elements, as XML of its own: the namespaces (W3C Namespaces in XML) that the document
 * around it declares are declared again where they are used.
 */
final class Markup {

    private final XmlInput input;
    private final XMLStreamReader reader;
    private final StringBuilder text;
    /** The namespaces that the text declares, by prefix, for each element that has begun. */
    private final Deque<Map<String, String>> declared = new ArrayDeque<>();

    /** Markup that begins with a text; the reader is at the first element. */
    Markup(XmlInput input, String before) {
        this.input = input;
        this.reader = input.reader();
        this.text = new StringBuilder(before);
        declared.push(Map.of("", ""));
    }

    /** All until the end of the element around it. */
    String read() {
        begin();
        for (int event = input.next(); event != XMLStreamConstants.END_DOCUMENT; event = input.next()) {
            switch (event) {
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA, XMLStreamConstants.SPACE ->
                    text.append(XmlFields.escaped(reader.getText()));
                case XMLStreamConstants.START_ELEMENT -> begin();
                case XMLStreamConstants.END_ELEMENT -> {
                    if (declared.size() == 1) {
                        return text.toString();
                    }
                    declared.pop();
                    text.append("</")
                            .append(name(reader.getPrefix(), reader.getLocalName()))
                            .append('>');
                }
                default -> {
                    // comments and instructions are no part of a value
                }
            }
        }
        return text.toString();
    }

    private void begin() {
        Map<String, String> scope = new HashMap<>(declared.peek());
        text.append('<').append(name(reader.getPrefix(), reader.getLocalName()));
        declare(scope, reader.getPrefix(), reader.getNamespaceURI());
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            String prefix = reader.getAttributePrefix(i);
            if (prefix != null && !prefix.isEmpty()) {
                declare(scope, prefix, reader.getAttributeNamespace(i));
            }
            attribute(name(prefix, reader.getAttributeLocalName(i)), reader.getAttributeValue(i));
        }
        text.append('>');
        declared.push(scope);
    }

    private void declare(Map<String, String> scope, String prefix, String namespace) {
        String key = prefix == null ? "" : prefix;
        String wanted = namespace == null ? "" : namespace;
        // nobody declares this one
        if (!key.equals("xml") && !wanted.equals(scope.put(key, wanted))) {
            attribute(key.isEmpty() ? "xmlns" : "xmlns:" + key, wanted);
        }
    }

    private void attribute(String name, String value) {
        String plain = XmlFields.escaped(value)
                .replace("\"", "&quot;")
                .replace("\n", "&#10;")
                .replace("\t", "&#9;");
        text.append(' ').append(name).append("=\"").append(plain).append('"');
    }

    private static String name(String prefix, String local) {
        return prefix == null || prefix.isEmpty() ? local : prefix + ":" + local;
    }
}
