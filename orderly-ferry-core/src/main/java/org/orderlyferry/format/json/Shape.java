package org.orderlyferry.format.json;

import org.orderlyferry.format.FileSettings;
import org.orderlyferry.problem.UsageException;

/** How a file's records stand in it. */
enum Shape {
    /** One array of objects. */
    ARRAY,
    /** One object after the other, each on a line of its own when written. */
    LINES,
    /** One object that has each record's key as a name and the record as its value. */
    KEYED;

    /** The one that is told, or another one. */
    static Shape of(FileSettings settings, Shape otherwise) {
        String text = settings.text("shape", otherwise.name().toLowerCase(java.util.Locale.ROOT));
        for (Shape shape : values()) {
            if (shape.name().equalsIgnoreCase(text)) {
                return shape;
            }
        }
        throw new UsageException("the shape is array, lines or keyed, not '" + text + "'");
    }
}
