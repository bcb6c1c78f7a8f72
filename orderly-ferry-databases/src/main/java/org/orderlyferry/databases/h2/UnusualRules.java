package org.orderlyferry.databases.h2;

import java.sql.SQLException;
import java.util.List;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.model.LeftBehind;

/** What columns and keys of H2 do beyond what a definition says. */
final class UnusualRules {

    private UnusualRules() {}

    static void tell(CatalogueQuery query, List<LeftBehind> all) throws SQLException {
        query.each(
                "SELECT TABLE_NAME, COLUMN_NAME, COLUMN_ON_UPDATE, DEFAULT_ON_NULL, IS_VISIBLE, IDENTITY_CYCLE FROM"
                        + " INFORMATION_SCHEMA.COLUMNS WHERE TABLE_SCHEMA <> 'INFORMATION_SCHEMA' AND (COLUMN_ON_UPDATE IS NOT"
                        + " NULL OR DEFAULT_ON_NULL AND IS_IDENTITY = 'NO' OR NOT IS_VISIBLE OR IDENTITY_CYCLE = 'YES')"
                        + " ORDER BY 1, 2",
                row -> {
                    String column = row.getString(1) + "." + row.getString(2);
                    if (row.getString(3) != null) {
                        all.add(new LeftBehind(
                                "on update",
                                column,
                                "it comes as a column that stays as it is when its record is changed: "
                                        + row.getString(3)));
                    } else if (!row.getBoolean(5)) {
                        all.add(new LeftBehind(
                                "invisibility",
                                column,
                                "it comes as a column like any other, which SELECT * gives as well"));
                    } else if ("YES".equals(row.getString(6))) {
                        all.add(new LeftBehind(
                                "counter", column, "it comes without its bounds, and without beginning again there"));
                    } else {
                        all.add(new LeftBehind("default", column, "it isn't given in the place of a null any more"));
                    }
                });
        boolean[] known = {false};
        query.each(
                "SELECT 1 FROM INFORMATION_SCHEMA.COLUMNS WHERE TABLE_SCHEMA = 'INFORMATION_SCHEMA' AND TABLE_NAME ="
                        + " 'TABLE_CONSTRAINTS' AND COLUMN_NAME = 'NULLS_DISTINCT'",
                row -> known[0] = true);
        if (!known[0]) {
            // a server of an older version, to which two nulls are never the same
            return;
        }
        query.each(
                "SELECT TABLE_NAME, CONSTRAINT_NAME FROM INFORMATION_SCHEMA.TABLE_CONSTRAINTS WHERE TABLE_SCHEMA <>"
                        + " 'INFORMATION_SCHEMA' AND NULLS_DISTINCT <> 'YES' ORDER BY 1, 2",
                row -> all.add(new LeftBehind(
                        "key",
                        row.getString(1) + "." + row.getString(2),
                        "it comes as one to which two nulls aren't the same")));
    }
}
