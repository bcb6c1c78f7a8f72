package org.orderlyferry.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** What the pages point to is there. */
class DocumentsTest {

    private static final Path HOME = Path.of("..");
    private static final Pattern LINK = Pattern.compile("\\[[^]]*]\\(([^)\\s]+)\\)");

    private static List<Path> pages() throws IOException {
        try (Stream<Path> docs = Files.walk(HOME.resolve("docs"));
                Stream<Path> top = Files.list(HOME)) {
            return Stream.concat(docs, top)
                    .filter(p -> p.toString().endsWith(".md"))
                    .sorted()
                    .toList();
        }
    }

    private static String text(Path page) throws IOException {
        // what stands in a block of code is no link
        return Files.readString(page).replaceAll("(?s)```.*?```", "").replaceAll("`[^`\n]*`", "code");
    }

    private static String anchor(String heading) {
        return heading.replaceFirst("^#+ ", "")
                .replace("`", "")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^\\p{L}\\p{N} _-]", "")
                .replace(' ', '-');
    }

    @Test
    void everyLinkLeadsSomewhere() throws Exception {
        List<String> lost = new ArrayList<>();
        for (Path page : pages()) {
            Matcher links = LINK.matcher(text(page));
            while (links.find()) {
                String link = links.group(1);
                if (link.startsWith("https:") || link.startsWith("http:")) {
                    continue;
                }
                String[] parts = link.split("#", 2);
                Path target = parts[0].isEmpty()
                        ? page
                        : page.resolveSibling(parts[0]).normalize();
                if (!Files.exists(target)) {
                    lost.add(page + ": " + link);
                } else if (parts.length > 1 && headings(target).stream().noneMatch(parts[1]::equals)) {
                    lost.add(page + ": " + link + " has no such heading");
                }
            }
        }
        assertThat(lost).isEmpty();
    }

    private static List<String> headings(Path page) throws IOException {
        return Files.readAllLines(page).stream()
                .filter(l -> l.startsWith("#"))
                .map(DocumentsTest::anchor)
                .toList();
    }

    @Test
    void everyPageCanBeReachedFromTheFirst() throws Exception {
        String index = Files.readString(HOME.resolve("docs/index.md"));
        try (Stream<Path> docs = Files.list(HOME.resolve("docs"))) {
            assertThat(docs.map(p -> p.getFileName().toString())
                            .filter(n -> n.endsWith(".md") && !n.equals("index.md"))
                            .filter(n -> !index.contains("(" + n + ")"))
                            .collect(Collectors.toList()))
                    .isEmpty();
        }
    }
}
