package org.orderlyferry.format.xml;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;

/** Tables as an XML Schema (1.0): types, lengths, what may be missing, keys and references within the file. */
final class XsdWriter {

    private final List<TableDefinition> tables;
    private final boolean attributes;
    private final StringBuilder xsd = new StringBuilder();

    XsdWriter(List<TableDefinition> tables, boolean attributes) {
        this.tables = tables;
        this.attributes = attributes;
    }

    byte[] write() {
        line(0, "<?xml version=\"1.0\" encoding=\"UTF-8\"?>");
        line(0, "<xs:schema xmlns:xs=\"http://www.w3.org/2001/XMLSchema\">");
        if (tables.size() == 1) {
            table(tables.get(0), 1, true);
        } else {
            line(1, "<xs:element name=\"tables\">");
            line(2, "<xs:complexType><xs:sequence>");
            tables.forEach(t -> table(t, 3, false));
            line(2, "</xs:sequence></xs:complexType>");
            tables.forEach(t -> keys(t, 2, XmlNames.of(t.name().name()) + "/row"));
            line(1, "</xs:element>");
        }
        line(0, "</xs:schema>");
        return xsd.toString().getBytes(StandardCharsets.UTF_8);
    }

    private void line(int depth, String text) {
        xsd.append("  ".repeat(depth)).append(text).append('\n');
    }

    private void table(TableDefinition table, int depth, boolean alone) {
        line(depth, "<xs:element name=\"" + XmlNames.of(table.name().name()) + "\">");
        comment(table.comment(), depth + 1);
        line(depth + 1, "<xs:complexType><xs:sequence>");
        line(depth + 2, "<xs:element name=\"row\" minOccurs=\"0\" maxOccurs=\"unbounded\">");
        line(depth + 3, "<xs:complexType>");
        if (!attributes) {
            line(depth + 4, "<xs:sequence>");
        }
        table.columns().forEach(c -> column(c, depth + 5));
        if (!attributes) {
            line(depth + 4, "</xs:sequence>");
        }
        line(depth + 3, "</xs:complexType>");
        line(depth + 2, "</xs:element>");
        line(depth + 1, "</xs:sequence></xs:complexType>");
        if (alone) {
            keys(table, depth + 1, "row");
        }
        line(depth, "</xs:element>");
    }

    private void comment(String comment, int depth) {
        if (!comment.isEmpty()) {
            line(depth, "<xs:annotation><xs:documentation>" + escaped(comment) + "</xs:documentation></xs:annotation>");
        }
    }

    private void column(ColumnDefinition column, int depth) {
        String name = XmlNames.of(column.name());
        String missing =
                attributes ? column.nullable() ? "" : " use=\"required\"" : column.nullable() ? " minOccurs=\"0\"" : "";
        String element = attributes ? "xs:attribute" : "xs:element";
        String restriction = restriction(column);
        String base = base(column.type());
        if (restriction.isEmpty() && column.comment().isEmpty()) {
            line(depth, "<" + element + " name=\"" + name + "\" type=\"" + base + "\"" + missing + "/>");
            return;
        }
        line(depth, "<" + element + " name=\"" + name + "\"" + missing + ">");
        comment(column.comment(), depth + 1);
        line(
                depth + 1,
                "<xs:simpleType><xs:restriction base=\"" + base + "\">" + restriction
                        + "</xs:restriction></xs:simpleType>");
        line(depth, "</" + element + ">");
    }

    private static String base(LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> "xs:boolean";
            case SMALLINT -> "xs:short";
            case INTEGER -> "xs:int";
            case BIGINT -> "xs:long";
            case DECIMAL -> "xs:decimal";
            case REAL -> "xs:float";
            case DOUBLE -> "xs:double";
            case BINARY, VARBINARY, BLOB -> "xs:base64Binary";
            case DATE -> "xs:date";
            case TIME -> "xs:time";
            case TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> "xs:dateTime";
            case INTERVAL -> "xs:duration";
            default -> "xs:string";
        };
    }

    private static String restriction(ColumnDefinition column) {
        LogicalType type = column.type();
        if (column.enumeration().isPresent()) {
            StringBuilder values = new StringBuilder();
            column.enumeration().get().values().forEach(v -> values.append("<xs:enumeration value=\"")
                    .append(escaped(v).replace("\"", "&quot;"))
                    .append("\"/>"));
            return values.toString();
        }
        return switch (type.name()) {
            case CHARACTER, VARCHAR, CLOB, BINARY, VARBINARY, BLOB ->
                type.isSized() ? "<xs:maxLength value=\"" + type.size() + "\"/>" : "";
            case DECIMAL ->
                type.isSized() && type.scale() >= 0
                        ? "<xs:totalDigits value=\"" + type.size() + "\"/><xs:fractionDigits value=\"" + type.scale()
                                + "\"/>"
                        : "";
            case UUID -> "<xs:pattern value=\"[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}\"/>";
            case TIMESTAMP -> "<xs:pattern value=\".*[^Z]\"/>";
            case TIMESTAMP_WITH_TIME_ZONE -> "<xs:pattern value=\".*Z\"/>";
            default -> "";
        };
    }

    private void keys(TableDefinition table, int depth, String selector) {
        table.primaryKey().ifPresent(k -> key("xs:key", keyName(table), k, depth, selector));
        int number = 1;
        for (Key key : table.uniqueKeys()) {
            key("xs:unique", XmlNames.of(table.name().name()) + "_unique" + number++, key, depth, selector);
        }
        number = 1;
        for (ForeignKey key : table.foreignKeys()) {
            Optional<TableDefinition> target = tables.stream()
                    .filter(t -> t.name().equals(key.target()))
                    .filter(t -> t.primaryKey()
                            .filter(k -> k.columns().equals(key.targetColumns()))
                            .isPresent())
                    .findFirst();
            if (target.isPresent()) {
                line(
                        depth,
                        "<xs:keyref name=\"" + XmlNames.of(table.name().name()) + "_reference" + number++
                                + "\" refer=\"" + keyName(target.get()) + "\">" + path(selector, key.columns())
                                + "</xs:keyref>");
            }
        }
    }

    private static String keyName(TableDefinition table) {
        return XmlNames.of(table.name().name()) + "_key";
    }

    private void key(String element, String name, Key key, int depth, String selector) {
        line(depth, "<" + element + " name=\"" + name + "\">" + path(selector, key.columns()) + "</" + element + ">");
    }

    private String path(String selector, List<String> columns) {
        StringBuilder path = new StringBuilder("<xs:selector xpath=\"" + selector + "\"/>");
        columns.forEach(c -> path.append("<xs:field xpath=\"")
                .append(attributes ? "@" : "")
                .append(XmlNames.of(c))
                .append("\"/>"));
        return path.toString();
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;");
    }
}
