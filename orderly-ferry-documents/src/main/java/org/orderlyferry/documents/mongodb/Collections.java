package org.orderlyferry.documents.mongodb;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import org.bson.BsonDocument;
import org.orderlyferry.documents.bson.Held;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.FieldCounts;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.apart.Apart;

/** What collections a database has, and as which tables they are seen. Not safe for use by several threads. */
final class Collections {

    /** Collections of the server's own. */
    private static final String SYSTEM = "system.";

    private final Server server;
    private final StoreAddress address;
    private final Map<String, Survey> surveys = new LinkedHashMap<>();
    private final Map<TableName, Seen> tables = new TreeMap<>();
    private final Map<TableName, TableDefinition> defined;
    private final Map<String, BsonDocument> options = new TreeMap<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();
    private final List<Finding> findings = new ArrayList<>();
    private boolean listed;

    Collections(Server server, StoreAddress address) {
        this(server, address, new ConcurrentHashMap<>());
    }

    private Collections(Server server, StoreAddress address, Map<TableName, TableDefinition> defined) {
        this.server = server;
        this.address = address;
        this.defined = defined;
    }

    /** With all that is known so far, for another thread. */
    Collections copy() {
        Collections copy = new Collections(server, address, defined);
        copy.surveys.putAll(surveys);
        copy.tables.putAll(tables);
        copy.options.putAll(options);
        copy.listed = listed;
        return copy;
    }

    /**
     * As what a table is seen.
     *
     * @param list the path of the list whose elements are its records; empty for the documents
     */
    record Seen(String collection, String list) {}

    /** All tables. */
    List<TableName> tables() {
        see();
        return List.copyOf(tables.keySet());
    }

    /** The names of the collections that aren't the server's or a load's. */
    Set<String> collections() {
        list();
        return options.keySet();
    }

    private void list() {
        if (listed || address.database().isEmpty()) {
            return;
        }
        server.work("its collections can't be listed", () -> {
            Set<String> own = LoadNote.own(server);
            for (BsonDocument one : server.database().listCollections(BsonDocument.class)) {
                String name = one.getString("name").getValue();
                if (!name.startsWith(SYSTEM) && !own.contains(name)) {
                    list(name, one);
                }
            }
            return null;
        });
        listed = true;
    }

    private void list(String name, BsonDocument told) {
        String type = told.containsKey("type") ? told.getString("type").getValue() : "collection";
        if (type.equals("view")) {
            leftBehind.add(new LeftBehind("view", name, "is computed from other documents"));
            return;
        }
        BsonDocument made = told.containsKey("options") ? told.getDocument("options") : new BsonDocument();
        options.put(name, made);
        for (String option : made.keySet()) {
            if (!option.startsWith("validat")) {
                leftBehind.add(
                        LeftBehind.of(TableName.of(name), "option", option, "is how this system keeps a collection"));
            }
        }
        if (made.containsKey("validator") && !Validator.isOurs(made)) {
            leftBehind.add(LeftBehind.of(
                    TableName.of(name), "validator", "is somebody's own; types and required fields are taken over"));
        }
    }

    /** Finds out as which tables the collections are seen. */
    private void see() {
        list();
        if (!tables.isEmpty()) {
            return;
        }
        for (String name : options.keySet()) {
            for (String list : address.form() == Form.APART ? survey(name).lists() : Set.of("")) {
                TableName table = TableName.of(list.isEmpty() ? name : name + Apart.LIST + list);
                Seen other = tables.put(table, new Seen(name, list));
                if (other != null) {
                    throw new UsageException(
                            "taken apart, the collections " + other.collection() + " and " + name + " of "
                                    + address.shown() + " would both have a table " + table
                                    + "; they can be read by another form than apart");
                }
            }
        }
    }

    private Survey survey(String collection) {
        return surveys.computeIfAbsent(collection, c -> Survey.of(server, address, c));
    }

    /**
     * As what a table is seen.
     *
     * @throws UsageException if there is none of that name
     */
    Seen seen(TableName table) {
        see();
        Seen seen = tables.get(table);
        if (seen == null) {
            throw new UsageException("there is no table " + table + " in " + address.shown());
        }
        return seen;
    }

    /** How many records a list's table has. */
    long records(Seen seen) {
        return survey(seen.collection()).records(seen.list());
    }

    /** What was found of a table's columns. */
    Map<String, FieldCounts> counts(Seen seen) {
        return survey(seen.collection()).counts(seen.list());
    }

    /** The definition of a table. */
    TableDefinition define(TableName table) {
        Seen seen = seen(table);
        TableDefinition known = defined.get(table);
        if (known != null) {
            return known;
        }
        Survey survey = survey(seen.collection());
        Optional<Validator> validator = validator(seen);
        List<ColumnDefinition> columns = survey.columns(seen.list());
        findings.addAll(survey.findings(table, seen.list()));
        TableDefinition.Builder definition = TableDefinition.named(table)
                .system(Held.SYSTEM)
                .columns(validator.map(v -> v.columns(columns)).orElse(columns));
        if (seen.list().isEmpty()) {
            whole(definition, seen, survey);
        } else {
            list(definition, seen, survey);
        }
        TableDefinition made = definition.build();
        if (made.columns().isEmpty()) {
            throw new UsageException("the collection " + table
                    + " has no documents, so its fields aren't known; form=whole in the address reads it as it is");
        }
        defined.put(table, made);
        return made;
    }

    /** The definition of a table, from now on with columns that no document has a field for. */
    TableDefinition define(TableName table, List<ColumnDefinition> also) {
        TableDefinition found = define(table);
        if (address.form() == Form.WHOLE) {
            return found;
        }
        List<ColumnDefinition> columns = new ArrayList<>(found.columns());
        also.stream()
                .filter(c -> found.column(c.name()).isEmpty())
                .filter(c -> !KeyStats.isOfKey(c.name()))
                .forEach(c ->
                        columns.add(c.toBuilder().nullable(true).sourceType("").build()));
        TableDefinition more = found.toBuilder().columns(columns).build();
        defined.put(table, more);
        return more;
    }

    /** What its system keeps of a collection's form, where it keeps anything. */
    Optional<Validator> validator(Seen seen) {
        return seen.list().isEmpty() && address.form() == Form.FIELDS
                ? Validator.of(options.get(seen.collection()))
                : Optional.empty();
    }

    private void whole(TableDefinition.Builder definition, Seen seen, Survey survey) {
        if (!survey.key().isGenerated()) {
            definition.primaryKey(new Key(
                    "",
                    survey.key().columns().stream().map(ColumnDefinition::name).toList()));
        }
        new Indexes(seen.collection(), definition.build(), leftBehind)
                .read(server.work("the indexes of " + seen.collection() + " can't be listed", () -> server.database()
                        .getCollection(seen.collection())
                        .listIndexes(BsonDocument.class)
                        .into(new ArrayList<>())))
                .addTo(definition);
    }

    private static void list(TableDefinition.Builder definition, Seen seen, Survey survey) {
        definition.primaryKey(Apart.PARENT, Apart.PLACE);
        List<ColumnDefinition> key = survey.key().columns();
        if (key.size() == 1 && !survey.key().isGenerated()) {
            definition.foreignKey(new ForeignKey(
                    "",
                    List.of(Apart.PARENT),
                    TableName.of(seen.collection()),
                    List.of(KeyStats.ID),
                    ReferentialAction.NO_ACTION,
                    ReferentialAction.CASCADE));
        }
    }

    /** What was seen and can't be carried, so far. */
    List<LeftBehind> leftBehind() {
        list();
        return List.copyOf(leftBehind);
    }

    /** What a person should know of the tables that were defined so far. */
    List<Finding> findings() {
        return List.copyOf(findings);
    }
}
