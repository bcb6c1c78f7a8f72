package org.orderlyferry.view;

import java.util.List;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.place.DocumentView;

/**
 * What became of a view.
 *
 * @param view what it shows
 * @param isMade whether it is there
 * @param isProven whether it was seen to show as many values in each column as were found in the source
 * @param leftBehind what it doesn't show, and why; and why there is none
 */
public record MadeView(DocumentView view, boolean isMade, boolean isProven, List<LeftBehind> leftBehind) {
    public MadeView {
        leftBehind = List.copyOf(leftBehind);
    }
}
