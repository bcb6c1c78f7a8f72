package org.orderlyferry.crossing;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.UsageException;

/** Lines that are put into a crossing's file, right below the key that they belong to. */
final class Additions {

    private final Path file;
    private final YamlValue.Mapping root;
    private final List<String> lines;
    /** What comes behind a line, by its number from 1. */
    private final TreeMap<Integer, List<String>> added = new TreeMap<>();

    Additions(Path file, YamlValue.Mapping root, String text) {
        this.file = file;
        this.root = root;
        this.lines = text.lines().toList();
    }

    boolean any() {
        return !added.isEmpty();
    }

    void table(List<String> block) {
        YamlValue.Entry tables = root.entries().get("tables");
        List<String> spaced = new ArrayList<>();
        spaced.add("");
        spaced.addAll(block);
        put(tables, spaced, 2);
    }

    void column(TableName table, String line) {
        YamlValue.Mapping tables =
                (YamlValue.Mapping) root.entries().get("tables").value();
        YamlValue.Mapping one =
                (YamlValue.Mapping) tables.entries().get(table.text()).value();
        put(one.entries().get("columns"), List.of(line), 6);
    }

    /** Behind the key's line, as far in as what stands there already. */
    private void put(YamlValue.Entry key, List<String> block, int usual) {
        if (!(key.value() instanceof YamlValue.Mapping mapping)
                || mapping.flow()
                || mapping.entries().isEmpty()) {
            throw new UsageException(file + ", line " + key.line() + ": " + key.key()
                    + " is written in braces, where nothing can be added line by line; write it one key a line");
        }
        int deep = mapping.entries().values().iterator().next().column() - 1;
        List<String> shifted = block.stream()
                .map(l -> l.isEmpty() ? l : " ".repeat(deep) + l.substring(Math.min(usual, l.length())))
                .toList();
        added.computeIfAbsent(key.line(), l -> new ArrayList<>()).addAll(shifted);
    }

    /** The file with what was added. */
    String text() {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < lines.size(); i++) {
            text.append(lines.get(i)).append('\n');
            added.getOrDefault(i + 1, List.of()).forEach(l -> text.append(l).append('\n'));
        }
        return text.toString();
    }
}
