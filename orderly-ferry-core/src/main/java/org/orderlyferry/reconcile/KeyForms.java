package org.orderlyferry.reconcile;

import java.util.List;
import org.orderlyferry.tally.ComparisonForm;
import org.orderlyferry.tally.TallyTaker;

/**
 * By what records of a table are told apart.
 *
 * @param columns the key's columns by the source's names; all that are compared, where there is no key
 * @param places where each stands among the compared columns
 * @param forms in which form each is compared
 * @param isKey whether a record is looked for by less than all of its values
 */
record KeyForms(List<String> columns, int[] places, List<ComparisonForm> forms, boolean isKey) {

    TallyTaker taker() {
        return new TallyTaker(columns, forms, places);
    }
}
