package org.orderlyferry.databases.h2;

import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.Adapting;
import org.orderlyferry.databases.dialect.LoadNotes;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;

/** Brings a definition to what H2 can hold. */
final class H2Adapting extends Adapting {

    /** Types of which the catalogue names only the kind. */
    private static final Set<String> COLLECTIONS = Set.of("ARRAY", "ROW");

    H2Adapting(H2Dialect dialect, LoadNotes notes) {
        super(dialect, notes);
    }

    @Override
    protected ColumnDefinition column(TableDefinition table, ColumnDefinition column) {
        TypeName large = column.type().name();
        if ((large == TypeName.CLOB || large == TypeName.BLOB) && isIndexed(table, column.name())) {
            LogicalType small = LogicalType.of(large == TypeName.CLOB ? TypeName.VARCHAR : TypeName.VARBINARY);
            notes().finding(
                            FindingCode.TYPE_CHANGED,
                            table.name(),
                            column.name(),
                            "H2 can't index " + column.type() + ", so the column becomes " + small
                                    + ", which holds up to 1,048,576");
            return column.withType(small);
        }
        String as = H2Types.sql(column.type());
        switch (column.type().name()) {
            case INTERVAL, XML, ARRAY ->
                notes().finding(
                                FindingCode.TYPE_CHANGED,
                                table.name(),
                                column.name(),
                                column.type() + " is held as " + as + ", which H2 has for it");
            default -> {
                // the same type is there
            }
        }
        return column;
    }

    @Override
    protected Optional<ColumnDefault> expression(SqlText expression) {
        return Optional.of(new ColumnDefault.Expression(expression));
    }

    @Override
    protected Optional<String> enumerationType(TableDefinition table, Enumeration enumeration) {
        // to H2 case and blanks at the ends tell no two of them apart, and none is nothing but blanks
        long different = enumeration.values().stream()
                .map(v -> v.trim().toUpperCase(Locale.ENGLISH))
                .filter(v -> !v.isEmpty())
                .distinct()
                .count();
        return different < enumeration.values().size() ? Optional.empty() : Optional.of(H2ColumnSql.type(enumeration));
    }

    @Override
    protected String ownType(TableDefinition table, ColumnDefinition column) {
        if (COLLECTIONS.contains(column.sourceType())) {
            notes().finding(
                            FindingCode.TYPE_CHANGED,
                            table.name(),
                            column.name(),
                            column.sourceType() + " values are carried as text, and arrive as CHARACTER VARYING");
            return "CHARACTER VARYING";
        }
        return column.enumeration()
                .flatMap(e -> enumerationType(table, e))
                .orElseGet(() -> super.ownType(table, column));
    }

    @Override
    protected boolean isNeverIndexed(ColumnDefinition held) {
        return held.sourceType().endsWith("LARGE OBJECT");
    }

    /** H2 has neither partial indexes nor any by expressions. */
    @Override
    protected boolean canIndex(IndexDefinition index) {
        return false;
    }
}
