package org.orderlyferry.databases.h2;

import java.sql.SQLException;
import java.util.List;
import org.orderlyferry.databases.dialect.CatalogueQuery;
import org.orderlyferry.databases.dialect.NotCarried;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;

/** What columns and keys of H2 do beyond what a definition says. */
final class UnusualRules {

    private UnusualRules() {}

    static void tell(H2Catalogue catalogue, CatalogueQuery query, List<LeftBehind> all) throws SQLException {
        query.each(
                "SELECT TABLE_NAME, COLUMN_NAME, COLUMN_ON_UPDATE, NOT IS_VISIBLE, DEFAULT_ON_NULL AND IS_IDENTITY = 'NO',"
                        + " IDENTITY_CYCLE = 'YES' OR CASE WHEN IDENTITY_INCREMENT > 0 THEN IDENTITY_MAXIMUM <> CASE DATA_TYPE"
                        + " WHEN 'TINYINT' THEN 127 WHEN 'SMALLINT' THEN 32767 WHEN 'INTEGER' THEN 2147483647 WHEN 'BIGINT'"
                        + " THEN 9223372036854775807 ELSE IDENTITY_MAXIMUM END ELSE IDENTITY_MINIMUM <> CASE DATA_TYPE WHEN"
                        + " 'TINYINT' THEN -128 WHEN 'SMALLINT' THEN -32768 WHEN 'INTEGER' THEN -2147483648 WHEN 'BIGINT' THEN"
                        + " -9223372036854775808 ELSE IDENTITY_MINIMUM END END, IDENTITY_MINIMUM, IDENTITY_MAXIMUM,"
                        + " IDENTITY_CYCLE = 'YES', TABLE_SCHEMA FROM INFORMATION_SCHEMA.COLUMNS WHERE TABLE_SCHEMA <> 'INFORMATION_SCHEMA'"
                        + " ORDER BY 1, 2",
                row -> {
                    TableName table = catalogue.name(row.getString(10), row.getString(1));
                    String column = row.getString(2);
                    if (row.getString(3) != null) {
                        all.add(LeftBehind.of(
                                table,
                                "on update",
                                column,
                                "it comes as a column that stays as it is when its record is changed: "
                                        + row.getString(3)));
                    }
                    if (row.getBoolean(4)) {
                        all.add(LeftBehind.of(table, "invisibility", column, NotCarried.INVISIBLE));
                    }
                    if (row.getBoolean(5)) {
                        all.add(LeftBehind.of(
                                table, "default", column, "it isn't given in the place of a null any more"));
                    }
                    if (row.getBoolean(6)) {
                        all.add(LeftBehind.of(
                                table,
                                "counter",
                                column,
                                "it comes without its bounds, from " + row.getString(7) + " to " + row.getString(8)
                                        + (row.getBoolean(9) ? ", and without beginning again there" : "")));
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
                "SELECT TABLE_SCHEMA, TABLE_NAME, CONSTRAINT_NAME FROM INFORMATION_SCHEMA.TABLE_CONSTRAINTS WHERE TABLE_SCHEMA <>"
                        + " 'INFORMATION_SCHEMA' AND NULLS_DISTINCT <> 'YES' ORDER BY 1, 2, 3",
                row -> all.add(LeftBehind.of(
                        catalogue.name(row.getString(1), row.getString(2)),
                        "key",
                        row.getString(3),
                        NotCarried.NULLS)));
    }
}
