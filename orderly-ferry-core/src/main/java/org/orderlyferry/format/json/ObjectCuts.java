package org.orderlyferry.format.json;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.PlaceException;

/**
 * Cuts objects that stand one after the other: where a line ends behind one object's last brace, and the next line begins
 * with another's first. Inside of a value there is no such place: a text can't hold a line end as it is, and between two
 * braces there would be a comma.
 */
final class ObjectCuts {

    private static final int BUFFER = 64 * 1024;

    private final long bytes;
    private final List<FilePiece> pieces = new ArrayList<>();
    private FilePiece last = FilePiece.ALL;
    /** The last byte, and the last one that is no blank. */
    private byte before;

    private byte solid;
    /** Where the line begins of which there have been only blanks yet; 0 behind its first other byte. */
    private long begun;

    private long line = 1;

    private ObjectCuts(long bytes) {
        this.bytes = bytes;
    }

    /**
     * Cuts a file.
     *
     * @param bytes how many a piece has, about
     */
    static List<FilePiece> of(FileSource file, long bytes) {
        try (InputStream in = file.open()) {
            return new ObjectCuts(bytes).all(in);
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }

    private List<FilePiece> all(InputStream in) throws IOException {
        byte[] buffer = new byte[BUFFER];
        long place = 0;
        for (int count = in.read(buffer); count >= 0; count = in.read(buffer)) {
            if (place == 0 && isOtherThanUtf8(buffer, count)) {
                return List.of(FilePiece.ALL);
            }
            look(buffer, count, place);
            place += count;
        }
        pieces.add(last);
        return pieces;
    }

    private void look(byte[] buffer, int count, long place) {
        for (int i = 0; i < count; i++) {
            byte b = buffer[i];
            if (b == '\n' || b == '\r') {
                line += b == '\n' && before == '\r' ? 0 : 1;
                begun = place + i + 1;
            } else if (b != ' ' && b != '\t') {
                if (begun > last.from() && b == '{' && solid == '}' && begun - last.from() >= bytes) {
                    pieces.add(new FilePiece(0, last.from(), begun, last.line()));
                    last = new FilePiece(0, begun, -1, line);
                }
                solid = b;
                begun = 0;
            }
            before = b;
        }
    }

    /** Objects in UTF-16 and UTF-32 have zeros beside their first brace. */
    private static boolean isOtherThanUtf8(byte[] head, int count) {
        for (int i = 0; i < Math.min(count, 4); i++) {
            if (head[i] == 0) {
                return true;
            }
        }
        return false;
    }
}
