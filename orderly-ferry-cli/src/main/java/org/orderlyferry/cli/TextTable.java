package org.orderlyferry.cli;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jline.utils.WCWidth;

/** A table of text with aligned columns. Widths count what a terminal shows: a wide letter is two, an accent none. */
final class TextTable {

    private static final String GAP = "  ";

    private final List<Heading> headings = new ArrayList<>();
    private final List<List<String>> rows = new ArrayList<>();
    private int sumsFrom = -1;

    private record Heading(String text, boolean right) {}

    TextTable left(String heading) {
        headings.add(new Heading(heading, false));
        return this;
    }

    TextTable right(String heading) {
        headings.add(new Heading(heading, true));
        return this;
    }

    TextTable row(String... cells) {
        rows.add(Arrays.stream(cells).map(TextTable::whole).toList());
        return this;
    }

    boolean isEmpty() {
        return rows.isEmpty();
    }

    /** All rows added from now on are sums; a line sets them off. */
    TextTable sums() {
        sumsFrom = rows.size();
        return this;
    }

    List<String> lines(Style style) {
        int[] widths = new int[headings.size()];
        for (int i = 0; i < widths.length; i++) {
            widths[i] = width(headings.get(i).text());
            for (List<String> row : rows) {
                widths[i] = Math.max(widths[i], width(row.get(i)));
            }
        }
        List<String> lines = new ArrayList<>();
        StringBuilder head = new StringBuilder();
        for (int i = 0; i < widths.length; i++) {
            head.append(GAP)
                    .append(style.faint(padded(
                            headings.get(i).text(), widths[i], headings.get(i).right())));
        }
        lines.add(head.toString().stripTrailing());
        for (int r = 0; r < rows.size(); r++) {
            if (r == sumsFrom) {
                int total = java.util.Arrays.stream(widths).sum() + GAP.length() * (widths.length - 1);
                lines.add(GAP + style.faint("─".repeat(total)));
            }
            StringBuilder line = new StringBuilder();
            for (int i = 0; i < widths.length; i++) {
                line.append(GAP)
                        .append(padded(
                                rows.get(r).get(i), widths[i], headings.get(i).right()));
            }
            lines.add(line.toString().stripTrailing());
        }
        return lines;
    }

    private static String padded(String text, int width, boolean right) {
        String blanks = " ".repeat(Math.max(0, width - width(text)));
        return right ? blanks + text : text + blanks;
    }

    /** How many places a terminal gives to text; colour codes take none. */
    static int width(String text) {
        return Style.bare(text)
                .codePoints()
                .map(c -> Math.max(0, WCWidth.wcwidth(c)))
                .sum();
    }

    /** Text on one line. */
    private static String whole(String text) {
        return cut(text, Integer.MAX_VALUE);
    }

    /** Text on one line in at most so many places; what is cut is marked. */
    static String cut(String text, int places) {
        StringBuilder line = new StringBuilder();
        text.codePoints().forEach(c -> {
            if (Character.isISOControl(c) || Escapes.isDirection(c)) {
                line.append(Escapes.escape(c));
            } else {
                line.appendCodePoint(c);
            }
        });
        String whole = line.toString();
        if (width(whole) <= places) {
            return whole;
        }
        StringBuilder kept = new StringBuilder();
        int used = 0;
        for (int i = 0; i < whole.length(); ) {
            int c = whole.codePointAt(i);
            int width = Math.max(0, WCWidth.wcwidth(c));
            if (used + width > places - 1) {
                break;
            }
            kept.appendCodePoint(c);
            used += width;
            i += Character.charCount(c);
        }
        return kept.append('…').toString();
    }
}
