package org.orderlyferry.databases.loading;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.dialect.ValueLimit;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/** What characters a load's texts may have, where a database or its columns don't have all of Unicode. */
final class Repertoires {

    private final Session session;
    private final LoadNotes notes;
    /** The character sets of collations. */
    private final Map<String, Optional<String>> sets = new HashMap<>();

    private final Map<String, ValueLimit> characters = new HashMap<>();

    Repertoires(Session session, LoadNotes notes) {
        this.session = session;
        this.notes = notes;
    }

    /** The limits of a table's columns, and what is to be said of them. */
    List<ValueLimit> of(TableName shown, List<ColumnDefinition> columns) throws SQLException {
        List<ValueLimit> limits = new ArrayList<>();
        Map<String, List<String>> told = new TreeMap<>();
        for (ColumnDefinition column : columns) {
            Optional<String> set = isText(column) ? set(column.collation()) : Optional.empty();
            set.ifPresent(
                    name -> told.computeIfAbsent(name, n -> new ArrayList<>()).add(column.name()));
            limits.add(set.isPresent() ? characters(set.get()) : ValueLimit.NONE);
        }
        told.forEach((set, names) -> notes.finding(
                FindingCode.VALUE_BY_VALUE,
                shown,
                String.join(", ", names),
                "texts are held in " + set + "; a value with a character that it hasn't is refused"));
        return limits;
    }

    private Optional<String> set(String collation) throws SQLException {
        if (!sets.containsKey(collation)) {
            sets.put(collation, session.dialect().writing().characterSet(session, collation));
        }
        return sets.get(collation);
    }

    private ValueLimit characters(String set) throws SQLException {
        if (!characters.containsKey(set)) {
            characters.put(set, session.dialect().writing().characters(session, set));
        }
        return characters.get(set);
    }

    private static boolean isText(ColumnDefinition column) {
        TypeName type = column.type().name();
        return column.generation().isEmpty()
                && (type.isText() || type == TypeName.XML || type == TypeName.JSON || type == TypeName.ARRAY);
    }
}
