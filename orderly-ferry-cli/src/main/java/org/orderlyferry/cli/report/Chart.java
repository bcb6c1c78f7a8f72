package org.orderlyferry.cli.report;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A drawing (SVG 1.1), in units of a pixel.
 *
 * @param id of its title, unique on the page
 * @param title what it shows
 * @param description what it says, in words, for those who don't see it
 */
record Chart(
        String id,
        String title,
        String description,
        int width,
        int height,
        List<Box> boxes,
        List<Label> labels,
        List<Line> lines) {

    /** A rectangle; {@code look} names its class. */
    record Box(String x, String y, String width, String height, String look, String tip) {}

    /** A text. */
    record Label(String x, String y, String text, String look) {}

    /** A line through points. */
    record Line(String points, String look) {}

    static Chart of(String id, String title, String description, int width, int height) {
        return new Chart(
                id, title, description, width, height, new ArrayList<>(), new ArrayList<>(), new ArrayList<>());
    }

    void box(double x, double y, double width, double height, String look, String tip) {
        boxes.add(new Box(number(x), number(y), number(width), number(height), look, tip));
    }

    void label(double x, double y, String text, String look) {
        labels.add(new Label(number(x), number(y), text, look));
    }

    void line(List<double[]> points, String look) {
        StringBuilder text = new StringBuilder();
        for (double[] point : points) {
            text.append(text.isEmpty() ? "" : " ")
                    .append(number(point[0]))
                    .append(',')
                    .append(number(point[1]));
        }
        lines.add(new Line(text.toString(), look));
    }

    static String number(double value) {
        String text = String.format(Locale.ROOT, "%.1f", value);
        return text.endsWith(".0") ? text.substring(0, text.length() - 2) : text;
    }
}
