package org.orderlyferry.format;

import org.jspecify.annotations.NullMarked;

/**
 * Which bytes of which file of a table's are meant: whole records, so that pieces can be read apart from each other. A plain
 * value, so that it can be written down and sent elsewhere.
 *
 * @param file the file's number among those of its table, from 1; 0 for all of them
 * @param from the first byte, from 0
 * @param to the byte behind the last; -1 for the file's end, wherever that is
 * @param line the line on which it begins, from 1
 */
@NullMarked
public record FilePiece(int file, long from, long to, long line) {

    /** All that there is. */
    public static final FilePiece ALL = new FilePiece(0, 0, -1, 1);

    public FilePiece {
        if (file < 0 || from < 0 || to >= 0 && to < from || line < 1) {
            throw new IllegalArgumentException("no piece of a file: " + file + ", " + from + " to " + to);
        }
    }

    /** All of one file. */
    public static FilePiece ofFile(int number) {
        return new FilePiece(number, 0, -1, 1);
    }

    /** The same bytes of the file of a number. */
    public FilePiece in(int number) {
        return new FilePiece(number, from, to, line);
    }

    /** Whether it is all of its file, or of all files. */
    public boolean isWhole() {
        return from == 0 && to < 0;
    }
}
