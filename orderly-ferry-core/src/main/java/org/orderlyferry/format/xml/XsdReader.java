package org.orderlyferry.format.xml;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.XMLConstants;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.xml.sax.SAXException;

/**
 * An XML Schema as definitions of tables: a table's columns are the elements and attributes of its record's element; its
 * keys are the {@code xs:key} and {@code xs:unique} that select records.
 */
final class XsdReader {

    private static final String XS = "http://www.w3.org/2001/XMLSchema";

    private final String shown;
    private final Element root;
    private final Map<String, Element> types = new HashMap<>();
    private final Map<String, Element> elements = new HashMap<>();
    private final Map<String, Element> groups = new HashMap<>();
    /** What need not be there, because another thing may stand in its place or what holds it may be missing. */
    private final Set<Element> optional = Collections.newSetFromMap(new IdentityHashMap<>());

    XsdReader(FileSource file) {
        this.shown = file.shown();
        this.root = parse(file).getDocumentElement();
        for (Element child : children(root)) {
            switch (child.getLocalName()) {
                case "complexType", "simpleType" -> types.put(child.getAttribute("name"), child);
                case "element" -> elements.put(child.getAttribute("name"), child);
                case "group", "attributeGroup" -> groups.put(child.getAttribute("name"), child);
                default -> {
                    // nothing that says what a record is
                }
            }
        }
    }

    private static Document parse(FileSource file) {
        try (InputStream in = file.open()) {
            DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
            factory.setNamespaceAware(true);
            factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
            factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
            return factory.newDocumentBuilder().parse(in);
        } catch (IOException | ParserConfigurationException | SAXException e) {
            throw new UsageException("the schema " + file.shown() + " can't be read: " + e.getMessage(), e);
        }
    }

    /** The tables of a document that is laid out so. */
    List<TableDefinition> read(XmlLayout layout, FileSource file) {
        Map<String, TableDefinition> tables = new LinkedHashMap<>();
        if (layout.kind() == XmlLayout.Kind.SEVERAL_TABLES) {
            for (Element table : declared(element(layout.root()))) {
                if (table.getLocalName().equals("element")) {
                    String name = table.getAttribute("name");
                    tables.put(name, table(XmlNames.back(name), record(table, layout.record())));
                }
            }
        } else {
            Element record = layout.kind() == XmlLayout.Kind.TOLD
                    ? element(layout.record())
                    : record(element(layout.root()), layout.record());
            tables.put("", table(layout.table(file), record));
        }
        return new XsdKeys(root).added(tables);
    }

    private Element element(String name) {
        return Optional.ofNullable(elements.get(name))
                .or(() -> anywhere(root, name))
                .orElseThrow(() -> new UsageException("the schema " + shown + " declares no element " + name));
    }

    private static Optional<Element> anywhere(Element under, String name) {
        for (Element child : children(under)) {
            if (child.getLocalName().equals("element")
                    && child.getAttribute("name").equals(name)) {
                return Optional.of(child);
            }
            Optional<Element> deeper = anywhere(child, name);
            if (deeper.isPresent()) {
                return deeper;
            }
        }
        return Optional.empty();
    }

    private Element record(Element table, String name) {
        return declared(table).stream()
                .filter(e -> e.getLocalName().equals("element"))
                .map(this::resolved)
                .filter(e -> e.getAttribute("name").equals(name))
                .findFirst()
                .orElseThrow(() -> new UsageException("the schema " + shown + " declares no element " + name
                        + " inside " + table.getAttribute("name")));
    }

    private Element resolved(Element element) {
        String reference = bare(element.getAttribute("ref"));
        return reference.isEmpty() || !elements.containsKey(reference) ? element : elements.get(reference);
    }

    private TableDefinition table(String name, Element record) {
        TableDefinition.Builder table = TableDefinition.named(name);
        List<ColumnDefinition> columns = new ArrayList<>();
        for (Element declared : declared(record)) {
            Element field = declared.getLocalName().equals("element") ? resolved(declared) : declared;
            columns.add(column(field, declared));
            for (Element attribute : attributes(field)) {
                ColumnDefinition column = column(attribute, attribute);
                columns.add(
                        column
                                .withName(columns.get(columns.size() - 1).name() + XmlFields.PATH + column.name())
                                .toBuilder()
                                .nullable(true)
                                .build());
            }
        }
        simple(record)
                .ifPresent(base -> columns.add(ColumnDefinition.named(XmlFields.OWN, base)
                        .nullable(true)
                        .build()));
        if (columns.isEmpty()) {
            throw new UsageException("the schema " + shown + " declares no values of a record of " + name);
        }
        return table.columns(columns).build();
    }

    /** Elements and attributes that a record, or a table, is made of, through sequences, choices and named types. */
    private List<Element> declared(Element element) {
        List<Element> found = new ArrayList<>();
        String type = bare(element.getAttribute("type"));
        collect(types.containsKey(type) ? types.get(type) : element, found);
        return found;
    }

    private void collect(Element under, List<Element> found) {
        for (Element child : children(under)) {
            switch (child.getLocalName()) {
                case "element", "attribute" -> found.add(child);
                case "complexType", "complexContent", "simpleContent" -> collect(child, found);
                case "group", "attributeGroup" -> {
                    Element group = groups.get(bare(child.getAttribute("ref")));
                    if (group != null) {
                        collect(group, found);
                    }
                }
                case "sequence", "all", "choice" -> {
                    int before = found.size();
                    collect(child, found);
                    if (child.getLocalName().equals("choice")
                            || child.getAttribute("minOccurs").equals("0")) {
                        optional.addAll(found.subList(before, found.size()));
                    }
                }
                case "extension" -> {
                    Element base = types.get(bare(child.getAttribute("base")));
                    if (base != null) {
                        collect(base, found);
                    }
                    collect(child, found);
                }
                default -> {
                    // keys and comments
                }
            }
        }
    }

    private ColumnDefinition column(Element field, Element use) {
        boolean nullable = field.getLocalName().equals("attribute")
                ? !use.getAttribute("use").equals("required")
                : optional.contains(use)
                        || use.getAttribute("minOccurs").equals("0")
                        || field.getAttribute("nillable").equals("true");
        boolean several = !Set.of("", "0", "1").contains(use.getAttribute("maxOccurs"));
        LogicalType type = several ? LogicalType.XML : type(field);
        return ColumnDefinition.named(XmlNames.back(field.getAttribute("name")), type)
                .nullable(nullable)
                .build();
    }

    /** The type of the text of an element that has attributes beside it, and no elements in it. */
    private Optional<LogicalType> simple(Element element) {
        Element type = types.getOrDefault(bare(element.getAttribute("type")), element);
        for (Element child : children(type)) {
            if (child.getLocalName().equals("complexType")) {
                return simple(child);
            }
            if (child.getLocalName().equals("simpleContent")) {
                Element content = children(child).get(0);
                return Optional.of(named(content.getAttribute("base")));
            }
        }
        return Optional.empty();
    }

    private LogicalType named(String name) {
        Element declared = types.get(bare(name));
        return declared == null ? base(bare(name), Map.of()) : declaredType(declared);
    }

    private LogicalType declaredType(Element type) {
        if (type.getLocalName().equals("complexType")) {
            return simple(type).orElse(LogicalType.XML);
        }
        Map<String, String> facets = new HashMap<>();
        return base(restricted(type, facets), facets);
    }

    /** The attributes of an element that is a value. */
    private List<Element> attributes(Element field) {
        return field.getLocalName().equals("element")
                ? declared(field).stream()
                        .filter(e -> e.getLocalName().equals("attribute"))
                        .toList()
                : List.of();
    }

    private LogicalType type(Element field) {
        return children(field).stream()
                .filter(e -> e.getLocalName().endsWith("Type"))
                .findFirst()
                .map(this::declaredType)
                .orElseGet(() -> named(field.getAttribute("type")));
    }

    /** The built-in type under a type, with all facets on the way. */
    private String restricted(Element simpleType, Map<String, String> facets) {
        for (Element child : children(simpleType)) {
            if (child.getLocalName().equals("restriction")) {
                for (Element facet : children(child)) {
                    facets.putIfAbsent(facet.getLocalName(), facet.getAttribute("value"));
                }
                String base = bare(child.getAttribute("base"));
                Element under = types.get(base);
                return under == null ? base : restricted(under, facets);
            }
        }
        return "string";
    }

    private static LogicalType base(String name, Map<String, String> facets) {
        int length = number(facets.getOrDefault("maxLength", facets.get("length")));
        return switch (name) {
            case "boolean" -> LogicalType.BOOLEAN;
            case "byte", "short", "unsignedByte" -> LogicalType.SMALLINT;
            case "int", "unsignedShort" -> LogicalType.INTEGER;
            case "long", "unsignedInt" -> LogicalType.BIGINT;
            case "decimal",
                    "integer",
                    "unsignedLong",
                    "nonNegativeInteger",
                    "positiveInteger",
                    "negativeInteger",
                    "nonPositiveInteger" -> decimal(name, facets);
            case "float" -> LogicalType.REAL;
            case "double" -> LogicalType.DOUBLE;
            case "base64Binary" -> length < 0 ? LogicalType.BLOB : LogicalType.of(TypeName.VARBINARY, length);
            case "date" -> LogicalType.DATE;
            case "time" -> LogicalType.of(TypeName.TIME);
            case "dateTime" ->
                facets.getOrDefault("pattern", "").endsWith("Z")
                        ? LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE)
                        : LogicalType.of(TypeName.TIMESTAMP);
            case "dateTimeStamp" -> LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE);
            case "duration" -> LogicalType.INTERVAL;
            default -> length < 0 ? LogicalType.CLOB : LogicalType.varchar(length);
        };
    }

    private static LogicalType decimal(String name, Map<String, String> facets) {
        int digits = number(facets.get("totalDigits"));
        int scale = number(facets.get("fractionDigits"));
        if (digits < 0) {
            return LogicalType.of(TypeName.DECIMAL);
        }
        return LogicalType.decimal(digits, name.equals("decimal") ? Math.max(0, scale) : 0);
    }

    private static int number(String text) {
        return text == null || text.isEmpty() ? LogicalType.UNBOUNDED : Integer.parseInt(text);
    }

    static String bare(String name) {
        return name.substring(name.indexOf(':') + 1);
    }

    static List<Element> children(Element element) {
        List<Element> children = new ArrayList<>();
        for (Node node = element.getFirstChild(); node != null; node = node.getNextSibling()) {
            if (node instanceof Element child && XS.equals(child.getNamespaceURI())) {
                children.add(child);
            }
        }
        return children;
    }
}
