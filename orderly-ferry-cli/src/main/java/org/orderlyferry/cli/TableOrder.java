package org.orderlyferry.cli;

import java.util.Comparator;

/** In which order tables are listed. */
enum TableOrder {
    /** As the place lists them: by name. */
    NAME((one, other) -> 0),
    /** The longest first. */
    ROWS(Comparator.comparingLong(PlaceView.Line::rows).reversed()),
    /** The largest first. */
    SIZE(Comparator.comparingLong((PlaceView.Line l) -> l.bytes().orElse(-1)).reversed()),
    /** The widest first. */
    COLUMNS(Comparator.comparingInt((PlaceView.Line l) -> l.table().columns().size())
            .reversed());

    private final Comparator<PlaceView.Line> order;

    TableOrder(Comparator<PlaceView.Line> order) {
        this.order = order;
    }

    Comparator<PlaceView.Line> order() {
        return order;
    }
}
