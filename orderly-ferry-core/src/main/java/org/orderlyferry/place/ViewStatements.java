package org.orderlyferry.place;

import java.util.List;

/**
 * A view in the SQL of the place that it is for.
 *
 * @param view what of it the system can show
 * @param leftOut columns whose paths it has no words for
 * @param create makes it
 * @param drop takes it away
 */
public record ViewStatements(DocumentView view, List<ViewColumn> leftOut, String create, String drop) {
    public ViewStatements {
        leftOut = List.copyOf(leftOut);
    }
}
