package org.orderlyferry.format.xml;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.Deferrability;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.w3c.dom.Element;

/** The keys and references that a schema declares ({@code xs:key}, {@code xs:unique}, {@code xs:keyref}), for tables. */
final class XsdKeys {

    private final List<Constraint> constraints = new ArrayList<>();

    /**
     * A constraint.
     *
     * @param element where it stands
     * @param path the elements that its selector goes through
     */
    private record Constraint(
            String kind, String name, String refer, String element, List<String> path, List<String> fields) {}

    /** Those of a schema. */
    XsdKeys(Element schema) {
        collect(schema, "");
    }

    private void collect(Element under, String element) {
        for (Element child : XsdReader.children(under)) {
            switch (child.getLocalName()) {
                case "key", "unique", "keyref" -> constraints.add(constraint(child, element));
                case "element" -> collect(child, child.getAttribute("name"));
                default -> collect(child, element);
            }
        }
    }

    private static Constraint constraint(Element declared, String element) {
        List<String> path = new ArrayList<>();
        List<String> fields = new ArrayList<>();
        for (Element child : XsdReader.children(declared)) {
            String xpath = child.getAttribute("xpath").replaceAll("\\s|\\.?//|\\./|@", "");
            if (child.getLocalName().equals("selector")) {
                for (String step : xpath.split("/")) {
                    path.add(XsdReader.bare(step));
                }
            } else if (child.getLocalName().equals("field")) {
                fields.add(XmlNames.back(XsdReader.bare(xpath)));
            }
        }
        return new Constraint(
                declared.getLocalName(),
                declared.getAttribute("name"),
                XsdReader.bare(declared.getAttribute("refer")),
                element,
                path,
                fields);
    }

    /**
     * The tables with their keys.
     *
     * @param tables by the names of their elements
     */
    List<TableDefinition> added(Map<String, TableDefinition> tables) {
        Map<String, TableDefinition.Builder> builders = new LinkedHashMap<>();
        tables.forEach((name, table) -> builders.put(name, table.toBuilder()));
        for (Constraint constraint : constraints) {
            Optional<String> name = table(constraint, tables);
            if (name.isEmpty()) {
                continue;
            }
            TableDefinition.Builder table = builders.get(name.get());
            Key key = new Key("", constraint.fields());
            switch (constraint.kind()) {
                case "key" -> table.primaryKey(key);
                case "unique" -> table.unique(key);
                default -> reference(constraint, tables).ifPresent(table::foreignKey);
            }
        }
        return builders.values().stream().map(TableDefinition.Builder::build).toList();
    }

    private Optional<ForeignKey> reference(Constraint constraint, Map<String, TableDefinition> tables) {
        for (Constraint target : constraints) {
            Optional<String> table = table(target, tables);
            boolean meant =
                    target.name().equals(constraint.refer()) && !target.kind().equals("keyref");
            if (meant
                    && table.isPresent()
                    && target.fields().size() == constraint.fields().size()) {
                return Optional.of(new ForeignKey(
                        "",
                        constraint.fields(),
                        tables.get(table.get()).name(),
                        target.fields(),
                        ReferentialAction.ofSql("NO ACTION"),
                        ReferentialAction.ofSql("NO ACTION"),
                        Deferrability.NOT_DEFERRABLE));
            }
        }
        return Optional.empty();
    }

    /** The table whose records a constraint is about, if they have all its fields. */
    private static Optional<String> table(Constraint constraint, Map<String, TableDefinition> tables) {
        List<String> names = new ArrayList<>(constraint.path());
        names.add(constraint.element());
        Optional<String> name = tables.size() == 1
                ? Optional.of(tables.keySet().iterator().next())
                : names.stream().filter(tables::containsKey).findFirst();
        return name.filter(n ->
                !constraint.fields().isEmpty() && tables.get(n).columnNames().containsAll(constraint.fields()));
    }
}
