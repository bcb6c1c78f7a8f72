package org.orderlyferry.place;

import org.orderlyferry.model.TableName;

/**
 * A query whose result is carried as if it were a table.
 *
 * @param name the table's name
 * @param sql the query, in the place's own SQL
 */
public record Query(TableName name, String sql) {}
