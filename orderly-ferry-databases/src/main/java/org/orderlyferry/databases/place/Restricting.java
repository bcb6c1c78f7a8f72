package org.orderlyferry.databases.place;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.Restriction;

/**
 * A restriction in a system's SQL, as far as it means the same there. What it can't say it doesn't restrict.
 *
 * @param nullsAreNulls whether all that is read as null is null there
 */
record Restricting(Dialect dialect, TableDefinition table, boolean nullsAreNulls) {

    /** A condition for WHERE; nothing where no record may be left out. */
    Optional<String> sql(Restriction restriction) {
        if (restriction instanceof Restriction.Several several) {
            List<String> parts = new ArrayList<>();
            for (Restriction part : several.of()) {
                Optional<String> sql = sql(part);
                if (sql.isEmpty() && !several.all()) {
                    return Optional.empty();
                }
                sql.ifPresent(parts::add);
            }
            return parts.isEmpty()
                    ? Optional.empty()
                    : Optional.of(
                            parts.stream().collect(Collectors.joining(several.all() ? " AND " : " OR ", "(", ")")));
        }
        if (restriction instanceof Restriction.Missing missing) {
            return missing.missing() && !nullsAreNulls
                    ? Optional.empty()
                    : column(missing.column())
                            .map(c -> dialect.quote(c.name()) + (missing.missing() ? " IS NULL" : " IS NOT NULL"));
        }
        Restriction.Compared compared = (Restriction.Compared) restriction;
        return column(compared.column())
                .map(c -> dialect.quote(c.name()) + " " + compared.comparison().operator() + " "
                        + dialect.reading().literal(c, compared.value()));
    }

    private Optional<ColumnDefinition> column(String name) {
        return table.column(name).filter(dialect.reading()::canRestrict);
    }
}
