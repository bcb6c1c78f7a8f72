package org.orderlyferry.databases.script;

import java.util.function.UnaryOperator;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.text.JsonElement;

/** PostgreSQL's text of an array, {@code {1,NULL,"a \\"b\\""}}, as a JSON array. A character stands for each byte. */
final class ArrayLiteral {

    private final String text;
    private final LogicalType element;
    private final UnaryOperator<String> form;
    private final StringBuilder json = new StringBuilder();
    private int at;

    private ArrayLiteral(String text, LogicalType element, UnaryOperator<String> form) {
        this.text = text;
        this.element = element;
        this.form = form;
    }

    /**
     * The JSON array, as it is read from the system itself.
     *
     * @param form an element as value text
     * @throws IllegalArgumentException if the text is no array
     */
    static String json(String text, LogicalType element, UnaryOperator<String> form) {
        if (text.startsWith("[")) {
            // JSON has no word for them
            throw new IllegalArgumentException(
                    "has bounds, since it doesn't count from 1, as no other system has them");
        }
        // an element that is JSON itself would be taken for a part of the array
        ArrayLiteral literal =
                new ArrayLiteral(text, element.name() == TypeName.JSON ? LogicalType.CLOB : element, form);
        literal.array();
        if (literal.at != text.length()) {
            throw literal.wrong();
        }
        return literal.json.toString();
    }

    private IllegalArgumentException wrong() {
        return new IllegalArgumentException("is no array");
    }

    private char take() {
        if (at == text.length()) {
            throw wrong();
        }
        return text.charAt(at++);
    }

    private void array() {
        if (take() != '{') {
            throw wrong();
        }
        json.append('[');
        char c = take();
        if (c != '}') {
            at--;
            do {
                json.append(json.charAt(json.length() - 1) == '[' ? "" : ",");
                value();
                c = take();
            } while (c == ',');
        }
        if (c != '}') {
            throw wrong();
        }
        json.append(']');
    }

    private void value() {
        char first = take();
        if (first == '{') {
            at--;
            array();
            return;
        }
        boolean quoted = first == '"';
        StringBuilder value = new StringBuilder();
        for (char c = quoted ? take() : first; quoted ? c != '"' : c != ',' && c != '}'; c = take()) {
            value.append(c == '\\' ? take() : c);
        }
        if (quoted) {
            json.append(JsonElement.of(form.apply(value.toString()), element));
            return;
        }
        at--;
        if (value.toString().equalsIgnoreCase("NULL")) {
            json.append("null");
        } else {
            json.append(JsonElement.of(form.apply(value.toString().strip()), element));
        }
    }
}
