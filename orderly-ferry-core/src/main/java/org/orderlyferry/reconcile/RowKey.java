package org.orderlyferry.reconcile;

import java.util.List;

/**
 * By what records of a table are told apart.
 *
 * @param columns the key's columns by the source's names; all that are compared, where there is no key
 * @param places where each stands among the compared columns
 * @param whole whether it is one column of whole numbers on both sides, whose values are worth keeping
 */
record RowKey(List<String> columns, int[] places, boolean whole) {}
