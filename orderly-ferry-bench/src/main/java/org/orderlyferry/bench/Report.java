package org.orderlyferry.bench;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/** The figures of a run, for people and for machines. */
final class Report {

    private static final int ROW = 34;
    private static final int NAMES = 380;
    private static final int UNIT = 260;
    private static final int WIDTH = 860;

    private Report() {}

    static void print(List<Ratio> ratios) {
        System.out.printf(
                Locale.ROOT, "%n%-52s %9s %9s %7s %7s%n", "measure", "ours, s", "base, s", "ratio", "at most");
        for (Ratio ratio : ratios) {
            System.out.printf(
                    Locale.ROOT,
                    "%-52s %9.2f %9.2f %7.2f %7.2f %s%n",
                    ratio.name(),
                    ratio.ours(),
                    ratio.baseline(),
                    ratio.ratio(),
                    ratio.wanted(),
                    ratio.ratio() <= ratio.wanted() ? "" : "  <- above");
        }
    }

    static void json(List<Ratio> ratios, Path file) throws IOException {
        ObjectMapper mapper =
                JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();
        ArrayNode array = mapper.createArrayNode();
        ratios.forEach(r -> array.addObject()
                .put("measure", r.name())
                .put("oursSeconds", rounded(r.ours()))
                .put("baselineSeconds", rounded(r.baseline()))
                .put("ratio", rounded(r.ratio()))
                .put("atMost", r.wanted()));
        Files.writeString(file, mapper.writeValueAsString(array) + "\n");
    }

    private static double rounded(double value) {
        return Math.round(value * 1000) / 1000.0;
    }

    /** A bar for each ratio, with a mark where it should end at most. */
    static void chart(List<Ratio> ratios, Path file) throws IOException {
        int height = 60 + ROW * ratios.size();
        StringBuilder svg = new StringBuilder(String.format(
                Locale.ROOT,
                "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"%d\" height=\"%d\" font-family=\"sans-serif\""
                        + " font-size=\"14\">%n<rect width=\"100%%\" height=\"100%%\" fill=\"#fff\"/>%n<text x=\"16\" y=\"28\""
                        + " font-size=\"16\" fill=\"#222\">Time next to a baseline of the same run; the mark is what is wanted at"
                        + " most</text>%n",
                WIDTH,
                height));
        int y = 46;
        for (Ratio ratio : ratios) {
            double shown = Math.min(ratio.ratio(), 1.7);
            boolean good = ratio.ratio() <= ratio.wanted();
            svg.append(String.format(
                    Locale.ROOT,
                    "<text x=\"%d\" y=\"%d\" text-anchor=\"end\" fill=\"#333\">%s</text>%n<rect x=\"%d\" y=\"%d\""
                            + " width=\"%.0f\" height=\"20\" fill=\"%s\"/>%n<line x1=\"%.0f\" y1=\"%d\" x2=\"%.0f\" y2=\"%d\""
                            + " stroke=\"#222\" stroke-width=\"2\"/>%n<text x=\"%.0f\" y=\"%d\" fill=\"#222\">%.2f</text>%n",
                    NAMES - 10,
                    y + 15,
                    ratio.name(),
                    NAMES,
                    y,
                    shown * UNIT,
                    good ? "#3f7d58" : "#c2703d",
                    NAMES + ratio.wanted() * UNIT,
                    y - 3,
                    NAMES + ratio.wanted() * UNIT,
                    y + 23,
                    NAMES + Math.max(shown, ratio.wanted()) * UNIT + 8,
                    y + 15,
                    ratio.ratio()));
            y += ROW;
        }
        Files.writeString(file, svg.append("</svg>\n").toString());
    }
}
