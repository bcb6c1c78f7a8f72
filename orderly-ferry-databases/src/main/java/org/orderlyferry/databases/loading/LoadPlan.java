package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.NamingRules;
import org.orderlyferry.databases.dialect.PossibleReferences;
import org.orderlyferry.databases.dialect.ReferenceFit;
import org.orderlyferry.databases.dialect.ReferencePaths;
import org.orderlyferry.databases.dialect.ReferenceRules;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.databases.naming.NameMapping;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.fit.TypeFit;

/** What a load will do, made up of what comes and what is there; nothing is changed by it. */
final class LoadPlan {

    private final Session session;
    /** One for all tables: what it has found out for some it needn't ask for the others. */
    private final Catalogue catalogue;

    private final Writing writing;
    private final LoadModes modes;
    private final LoadNotes notes;
    private final Repertoires repertoires;
    private final PossibleHere here;
    private final Adapting adapting;
    private final List<TableName> there;
    private final Map<TableName, Route> routes = new LinkedHashMap<>();
    private final Set<TableName> ofTheSystem = new HashSet<>();
    private final List<String> refusals = new ArrayList<>();
    private int lastNumber;

    private LoadPlan(Session session, LoadModes modes, boolean trusting, LoadNotes notes) throws SQLException {
        this.session = session;
        this.writing = session.dialect().writing();
        this.modes = modes;
        this.notes = notes;
        this.repertoires = new Repertoires(session, notes);
        this.here = new PossibleHere(session, notes);
        this.adapting = writing.adapting(notes).trusting(trusting).knowing(writing.furtherTypes(session));
        Set<TableName> own = Ledger.own(session);
        this.catalogue = session.catalogue();
        this.there = catalogue.tables().stream().filter(t -> !own.contains(t)).toList();
    }

    /**
     * Plans a load.
     *
     * @param trusting whether definitions are taken as they are where they go beyond what can be read
     * @throws UsageException if what is there doesn't allow it
     */
    static LoadPlan of(
            Session session, List<TableDefinition> wanted, LoadModes modes, boolean trusting, LoadNotes notes)
            throws SQLException {
        LoadPlan plan = new LoadPlan(session, modes, trusting, notes);
        plan.make(wanted);
        return plan;
    }

    /**
     * What tables would be made, each by its name at the source, if they were loaded in place of those that are there;
     * whether that would be allowed counts for nothing.
     */
    static Map<TableName, TableDefinition> expected(
            Session session, List<TableDefinition> wanted, boolean trusting, LoadNotes notes) throws SQLException {
        LoadPlan plan = new LoadPlan(session, LoadModes.all(LoadMode.REPLACE), trusting, notes);
        plan.lay(wanted);
        Map<TableName, TableDefinition> made = new LinkedHashMap<>();
        plan.routes.forEach((source, route) -> made.put(source, route.arrival().table()));
        return made;
    }

    private void make(List<TableDefinition> wanted) throws SQLException {
        lay(wanted);
        for (Map.Entry<TableName, Route> route : routes.entrySet()) {
            route.setValue(here.tried(route.getValue()));
        }
        // what is tried at the server is tried only where it is to be done
        writing.settling().tooManyAtOnce(session, arrivals()).ifPresent(refusals::add);
        if (!refusals.isEmpty()) {
            throw new UsageException(session.address() + " can't take the records as they are; nothing was changed:\n  "
                    + String.join("\n  ", refusals));
        }
    }

    /** Says how each table would come, and what is against it. */
    private void lay(List<TableDefinition> wanted) throws SQLException {
        NameMapping names =
                new NameMapping(session.dialect().naming(), wanted, takenNames(wanted)).held(catalogue.held());
        List<TableDefinition> mapped = wanted.stream()
                .map(t -> names.map(stays(t.name(), names.of(t.name()).orElseThrow()) ? withoutKeys(t) : t))
                .toList();
        refusals.addAll(TakenNames.refusals(
                session, there, mapped.stream().map(TableDefinition::name).toList()));
        refuseExisting(wanted, mapped);
        for (int i = 0; i < wanted.size(); i++) {
            TableDefinition source = wanted.get(i);
            TableName name = mapped.get(i).name();
            Route route = stays(source.name(), name)
                    ? toStay(mapped.get(i), source)
                    : toCome(
                            here.asked(adapting.adapt(mapped.get(i), names.columns(source.name()))),
                            mapped.get(i),
                            source);
            routes.put(source.name(), route);
            if (source.system().equals(session.dialect().system())) {
                ofTheSystem.add(source.name());
            }
        }
        names.findings().forEach(f -> notes.finding(f.code(), f.table(), f.column(), f.text()));
        refer();
        refusals.addAll(Referrers.lostColumns(session, arrivals()));
    }

    /** Leaves references behind that can't be made, and gives those that can the types that they need. */
    private void refer() {
        Map<TableName, TableDefinition> coming = new LinkedHashMap<>();
        routes.forEach((source, route) -> {
            if (route.arrival().isNewTable()) {
                coming.put(source, route.arrival().table());
            }
        });
        Map<TableName, TableDefinition> stay = new HashMap<>();
        Function<TableName, Optional<TableDefinition>> others = name -> there.contains(name)
                ? Optional.of(stay.computeIfAbsent(
                        name, n -> session.work("table " + n + " can't be looked at", () -> catalogue.define(n))))
                : Optional.empty();
        ReferenceRules rules = writing.references();
        new PossibleReferences(rules.referred(), others, "neither loaded nor there", notes).settle(coming);
        new ReferenceFit(writing::canRefer, notes).unite(coming, others);
        new ReferencePaths(rules, session.dialect().system(), notes).settle(coming, ofTheSystem::contains, others);
        coming.forEach((source, table) -> routes.computeIfPresent(source, (s, route) -> route.withTable(table)));
    }

    private boolean stays(TableName source, TableName name) {
        return there.contains(name) && (modes.of(source) == LoadMode.APPEND || modes.of(source) == LoadMode.MERGE);
    }

    /** A table of which only the records count: one that is there has keys and indexes of its own. */
    private static TableDefinition withoutKeys(TableDefinition table) {
        return table.toBuilder()
                .primaryKey((Key) null)
                .uniqueKeys(List.of())
                .foreignKeys(List.of())
                .checks(List.of())
                .indexes(List.of())
                .build();
    }

    /** Names of indexes and keys that tables have which stay; in some systems no two tables may have the same. */
    private List<String> takenNames(List<TableDefinition> wanted) throws SQLException {
        if (session.dialect().naming().indexes() == NamingRules.Scope.TABLE) {
            return List.of();
        }
        List<String> taken = new ArrayList<>();
        Map<TableName, List<String>> indexes = catalogue.indexNames();
        for (TableName table : there) {
            boolean replaced = wanted.stream()
                    .anyMatch(w -> modes.of(w.name()) == LoadMode.REPLACE
                            && w.name().name().equals(table.name()));
            if (!replaced) {
                taken.addAll(indexes.getOrDefault(table, List.of()));
                taken.add(table.name());
            }
        }
        return taken;
    }

    private void refuseExisting(List<TableDefinition> wanted, List<TableDefinition> mapped) throws SQLException {
        List<String> found = new ArrayList<>();
        for (int i = 0; i < mapped.size(); i++) {
            TableDefinition table = mapped.get(i);
            if (modes.of(wanted.get(i).name()) == LoadMode.CREATE && there.contains(table.name())) {
                found.add(table.name() + " (" + session.count(table.name()) + " records)");
            }
        }
        if (!found.isEmpty()) {
            throw new UsageException("the target " + session.address() + " has "
                    + (found.size() == 1 ? "this table" : "these tables") + " already: " + Listed.of(found)
                    + "; nothing was changed");
        }
    }

    /** A name for a table on its way that no table has, whoever's it may be. */
    private TableName staging(TableName table) {
        while (true) {
            String name = ReservedNames.onTheWay(++lastNumber);
            boolean taken = there.stream()
                    .anyMatch(t -> t.name().equalsIgnoreCase(name) || t.name().equalsIgnoreCase(name + "o"));
            if (!taken) {
                return new TableName(table.schema(), name);
            }
        }
    }

    /** A table that comes new, or in the place of another. */
    private Route toCome(TableDefinition adapted, TableDefinition mapped, TableDefinition source) throws SQLException {
        Optional<TableDefinition> old =
                there.contains(mapped.name()) ? Optional.of(catalogue.define(mapped.name())) : Optional.empty();
        if (old.isEmpty()) {
            tellAlike(mapped.name());
        }
        LoadMode mode = old.isPresent() ? LoadMode.REPLACE : LoadMode.CREATE;
        if (old.isPresent()) {
            refusals.addAll(writing.settling().obstacles(session, old.get(), adapted));
        }
        boolean direct = writing.isOneTransaction() && mode == LoadMode.CREATE;
        TableName loaded = direct ? adapted.name() : staging(adapted.name());
        return new Route(
                new Arrival(source.name(), mode, adapted, loaded, old),
                source.columns(),
                adapted.toBuilder().name(loaded).build(),
                repertoires.of(adapted.name(), adapted.columns()),
                false);
    }

    /** Who has made the target's tables beforehand may have meant the very one. */
    private void tellAlike(TableName made) {
        there.stream()
                .filter(t -> t.schema().equals(made.schema()) && t.name().equalsIgnoreCase(made.name()))
                .findFirst()
                .ifPresent(t -> notes.finding(
                        FindingCode.NAME_ALIKE,
                        made,
                        "",
                        "is made beside table " + t + ", which is another one to the target, and gets none of the"
                                + " records"));
    }

    /** Records that come to a table that stays. */
    private Route toStay(TableDefinition mapped, TableDefinition source) throws SQLException {
        TableDefinition stays = catalogue.define(mapped.name());
        List<ColumnDefinition> into = new ArrayList<>();
        for (int i = 0; i < source.columns().size(); i++) {
            matching(stays, mapped.columns().get(i), source.columns().get(i)).ifPresent(into::add);
        }
        for (ColumnDefinition column : stays.columns()) {
            boolean filled = column.nullable()
                    || column.defaultValue().isPresent()
                    || column.identity().isPresent()
                    || column.generation().isPresent();
            if (into.stream().noneMatch(c -> c.name().equals(column.name())) && !filled) {
                refusals.add("table " + stays.name() + ": the records have no column " + column.name()
                        + ", which is NOT NULL and has no default");
            }
        }
        writing.settling().withoutTransactions(session, stays.name()).ifPresent(refusals::add);
        LoadMode mode = modes.of(source.name());
        if (mode == LoadMode.MERGE) {
            checkKey(stays, into);
        }
        boolean direct = writing.isOneTransaction() && mode == LoadMode.APPEND;
        TableName loaded = direct ? stays.name() : staging(stays.name());
        TableDefinition plain = TableDefinition.named(loaded)
                .columns(into.stream().map(LoadPlan::plain).toList())
                .primaryKey(stays.primaryKey().orElse(null))
                .system(stays.system())
                .build();
        return new Route(
                new Arrival(
                        source.name(),
                        mode,
                        mode == LoadMode.MERGE ? Counters.raised(stays, Counters.given(source, into)) : stays,
                        loaded,
                        Optional.of(stays)),
                source.columns(),
                plain,
                repertoires.of(stays.name(), plain.columns()),
                !stays.checks().isEmpty() && catalogue.changesWhatComes(stays.name()));
    }

    private Optional<ColumnDefinition> matching(
            TableDefinition stays, ColumnDefinition mapped, ColumnDefinition source) {
        Optional<ColumnDefinition> found = stays.column(mapped.name())
                .or(() -> stays.columns().stream()
                        .filter(c -> c.name().equalsIgnoreCase(mapped.name()))
                        .findFirst())
                .map(c -> writing.taking(c, source.type()));
        if (found.isEmpty()) {
            refusals.add("table " + stays.name() + " has no column " + mapped.name());
            return found;
        }
        ColumnDefinition target = found.get();
        switch (TypeFit.of(source.type(), target.type())) {
            case NEVER ->
                refusals.add("table " + stays.name() + ", column " + target.name() + ": " + source.type()
                        + " can't be held by " + target.type());
            case BY_VALUE ->
                notes.finding(
                        FindingCode.VALUE_BY_VALUE,
                        stays.name(),
                        target.name(),
                        source.type() + " comes into " + target.type() + "; a value that it can't hold is refused");
            default -> {
                // every value can be held
            }
        }
        return found;
    }

    private void checkKey(TableDefinition stays, List<ColumnDefinition> into) {
        if (stays.primaryKey().isEmpty()) {
            refusals.add("table " + stays.name() + " has no primary key, by which records could be merged");
            return;
        }
        for (String column : stays.primaryKey().get().columns()) {
            if (into.stream().noneMatch(c -> c.name().equals(column))) {
                refusals.add("table " + stays.name() + ": the records have no column " + column
                        + ", which is part of its primary key");
            }
        }
        writing.settling().unmergeable(stays, into).ifPresent(refusals::add);
    }

    /** A column of a table that only holds records for a while: nothing fills it but what they bring. */
    private static ColumnDefinition plain(ColumnDefinition column) {
        return column.toBuilder()
                .nullable(column.nullable() || column.generation().isPresent())
                .defaultValue(Optional.empty())
                .identity(Optional.empty())
                .comment("")
                .build();
    }

    /** A message of the server's, with tables and their keys by the names that a person knows them by. */
    String plain(String message) {
        return new PlainNames(arrivals(), writing).in(message);
    }

    Route route(TableName source) {
        return routes.get(source);
    }

    /** A table's number: the same for as long as the plan is the same. */
    int number(TableName source) {
        return List.copyOf(routes.keySet()).indexOf(source);
    }

    /** A type as it is written here, for a table that comes from another database of the system. */
    Optional<String> held(TableName source, String sourceType) {
        return ofTheSystem.contains(source) ? adapting.held(sourceType) : Optional.empty();
    }

    List<Route> routes() {
        return List.copyOf(routes.values());
    }

    List<Arrival> arrivals() {
        return routes.values().stream().map(Route::arrival).toList();
    }

    /** Schemas that tables are to stand in and that aren't there. */
    List<String> missingSchemas() throws SQLException {
        TreeSet<String> schemas = new TreeSet<>();
        arrivals().forEach(a -> schemas.add(a.name().schema()));
        schemas.remove("");
        schemas.removeAll(writing.schemas(session));
        return List.copyOf(schemas);
    }
}
