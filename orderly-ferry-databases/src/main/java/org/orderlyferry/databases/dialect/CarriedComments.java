package org.orderlyferry.databases.dialect;

import java.util.function.IntUnaryOperator;
import java.util.function.UnaryOperator;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableDefinition;

/** Brings the comments of a definition to what a system can hold, and tells what of them doesn't arrive. */
@API(status = API.Status.INTERNAL)
public record CarriedComments(LoadNotes notes) {

    /** A definition whose comments are no longer than a system takes them; nothing is cut in the middle of a character. */
    public TableDefinition cut(TableDefinition table, Room ofTable, Room ofColumn, String reason) {
        return carried(table, ofTable::cut, ofColumn::cut, "ends of comments", reason);
    }

    /** A definition whose comments have no control characters, which become blanks. */
    public TableDefinition blanked(TableDefinition table, String reason) {
        return carried(table, CarriedComments::blanked, CarriedComments::blanked, "line ends of comments", reason);
    }

    /**
     * A definition with other comments.
     *
     * @param lost what isn't carried where one changes
     * @param reason why, as a sentence
     */
    public TableDefinition carried(
            TableDefinition table,
            UnaryOperator<String> ofTable,
            UnaryOperator<String> ofColumn,
            String lost,
            String reason) {
        TableDefinition carried = table.toBuilder()
                .comment(ofTable.apply(table.comment()))
                .columns(table.columns().stream()
                        .map(c -> c.toBuilder()
                                .comment(ofColumn.apply(c.comment()))
                                .build())
                        .toList())
                .build();
        if (!carried.equals(table)) {
            notes.leftBehind(lost, table.name().toString(), reason);
        }
        return carried;
    }

    private static String blanked(String comment) {
        StringBuilder plain = new StringBuilder();
        comment.chars().forEach(c -> plain.append(c < ' ' ? ' ' : (char) c));
        return plain.toString();
    }

    /**
     * How long a comment may be.
     *
     * @param most in the system's units
     * @param units how many of them a character (a code point) takes
     */
    public record Room(int most, IntUnaryOperator units) {

        /** Room for so many units of UTF-16. */
        public static Room ofUtf16(int most) {
            return new Room(most, Character::charCount);
        }

        /** Room for so many bytes of UTF-8. */
        public static Room ofUtf8(int most) {
            return new Room(most, c -> c < 0x80 ? 1 : c < 0x800 ? 2 : c < 0x10000 ? 3 : 4);
        }

        private String cut(String comment) {
            int used = 0;
            for (int i = 0; i < comment.length(); ) {
                int c = comment.codePointAt(i);
                used += units.applyAsInt(c);
                if (used > most) {
                    return comment.substring(0, i);
                }
                i += Character.charCount(c);
            }
            return comment;
        }
    }
}
