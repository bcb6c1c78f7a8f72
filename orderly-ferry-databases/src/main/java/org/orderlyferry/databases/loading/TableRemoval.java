package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.UsageException;

/** Takes whole tables out of a database: first what refers among them, in case they do so in a circle, then the tables. */
public final class TableRemoval {

    /** So many statements of a removal are one transaction. */
    private static final int AT_ONCE = 200;

    private final Session session;
    private final Dialect dialect;

    public TableRemoval(Session session) {
        this.session = session;
        this.dialect = session.dialect();
    }

    /**
     * Takes away those of some tables that are there.
     *
     * @throws UsageException if tables that stay refer to them; nothing was changed then
     */
    public void remove(List<TableName> unwanted) throws SQLException {
        Map<TableName, TableDefinition> going = new LinkedHashMap<>();
        List<String> staying = new ArrayList<>();
        Set<TableName> wanted = new HashSet<>(unwanted);
        Catalogue catalogue = session.catalogue();
        for (TableName name : catalogue.tables()) {
            if (wanted.contains(name)) {
                going.put(name, catalogue.define(name));
            }
        }
        for (TableName other : catalogue.referrers(going.keySet())) {
            if (!going.containsKey(other)) {
                catalogue.define(other).foreignKeys().stream()
                        .filter(k -> going.containsKey(k.target()))
                        .forEach(k -> staying.add("table " + other + " refers to " + k.target()));
            }
        }
        if (!staying.isEmpty()) {
            throw new UsageException("the tables can't be taken away: " + Listed.of(staying, "; "));
        }
        Optional<String> waiting = dialect.writing().settling().lettingReferencesWait();
        List<String> statements = new ArrayList<>();
        if (waiting.isPresent()) {
            statements.add(waiting.get());
        } else {
            for (TableDefinition table : going.values()) {
                for (ForeignKey key : table.foreignKeys()) {
                    statements.add("ALTER TABLE " + dialect.quote(table.name()) + " DROP CONSTRAINT "
                            + dialect.quote(key.name()));
                }
            }
        }
        going.keySet().forEach(table -> statements.add("DROP TABLE " + dialect.quote(table)));
        for (int i = 0; i < statements.size(); i++) {
            session.execute(statements.get(i));
            if (waiting.isEmpty() && i % AT_ONCE == AT_ONCE - 1) {
                // each holds locks up to the end, and a server has room for some thousands; what is there still goes
                // another time
                session.connection().commit();
            }
        }
        session.connection().commit();
    }
}
