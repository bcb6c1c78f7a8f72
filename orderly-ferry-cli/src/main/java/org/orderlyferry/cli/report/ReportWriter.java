package org.orderlyferry.cli.report;

import com.github.mustachejava.DefaultMustacheFactory;
import com.github.mustachejava.Mustache;
import java.io.IOException;
import java.io.InputStream;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.util.Base64;
import java.util.HashMap;
import java.util.Map;
import java.util.regex.Pattern;
import org.apiguardian.api.API;
import org.orderlyferry.cli.Escapes;
import org.orderlyferry.report.WorkRecord;

/**
 * Writes reports. All that comes from a record is escaped by the templates' engine, wherever it stands: the page has no
 * script, and its content security policy allows nothing but its own style.
 */
@API(status = API.Status.INTERNAL)
public final class ReportWriter {

    private static final String FOLDER = "org/orderlyferry/cli/report/";

    private ReportWriter() {}

    /** A report as text, with a line end behind it. */
    public static String write(WorkRecord work, ReportForm form, Instant now) {
        return switch (form) {
            case JSON -> work.json() + "\n";
            case HTML -> html(work, now);
            case MARKDOWN ->
                filled(new MarkdownFactory(), "report.md.mustache", new LayoutOf(work).layout(now), "", "");
        };
    }

    private static String html(WorkRecord work, Instant now) {
        String style = resource("report.css");
        return filled(new HtmlFactory(), "report.html.mustache", new LayoutOf(work).layout(now), style, hash(style));
    }

    private static String filled(
            DefaultMustacheFactory factory, String template, Layout layout, String style, String hash) {
        Mustache mustache = factory.compile(FOLDER + template);
        Map<String, Object> scope = new HashMap<>();
        scope.put("layout", layout);
        scope.put("style", style);
        scope.put("styleHash", hash);
        StringWriter text = new StringWriter();
        mustache.execute(text, scope);
        return text.toString();
    }

    private static String resource(String name) {
        try (InputStream in = ReportWriter.class.getResourceAsStream(name)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static String hash(String style) {
        try {
            return Base64.getEncoder()
                    .encodeToString(
                            MessageDigest.getInstance("SHA-256").digest(style.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /** For a page: what a page must not hold is shown as an escape, and what means something in it is written as text. */
    private static final class HtmlFactory extends DefaultMustacheFactory {
        @Override
        public void encode(String value, Writer to) {
            super.encode(oneLine(value), to);
        }
    }

    /** For a text in CommonMark: a backslash in front of all that means something there. */
    private static final class MarkdownFactory extends DefaultMustacheFactory {

        /** What means something anywhere in a line; what does so at its beginning only stands behind words of ours. */
        private static final String SPECIAL = "\\`*_[]<>|~&#@";

        private static final Pattern LINK = Pattern.compile("(?i)(www)(?=\\.)|(:)(?=//)");

        @Override
        public void encode(String value, Writer to) {
            StringBuilder escaped = new StringBuilder();
            oneLine(value).codePoints().forEach(c -> {
                if (SPECIAL.indexOf(c) >= 0) {
                    escaped.append('\\');
                }
                escaped.appendCodePoint(c);
            });
            try {
                // addresses become links even where nobody has asked for one
                to.write(LINK.matcher(escaped).replaceAll("$1\\\\$2"));
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    /** What Unicode keeps for the inside of programs, and HTML forbids. */
    private static boolean isNoCharacter(int c) {
        return (c & 0xFFFE) == 0xFFFE || c >= 0xFDD0 && c <= 0xFDEF;
    }

    private static String oneLine(String value) {
        StringBuilder shown = new StringBuilder();
        Escapes.shown(value).codePoints().forEach(c -> {
            boolean half = Character.getType(c) == Character.SURROGATE;
            if (c == '\n' || half || isNoCharacter(c)) {
                shown.append(Escapes.escape(c));
            } else {
                shown.appendCodePoint(c);
            }
        });
        return shown.toString();
    }
}
