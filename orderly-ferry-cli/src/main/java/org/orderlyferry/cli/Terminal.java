package org.orderlyferry.cli;

import java.util.Map;

/**
 * What is known of the terminal. Java can't tell which of its outputs is one, so the launcher does.
 *
 * @param out whether results go to a terminal
 * @param err whether progress goes to a terminal
 * @param colour whether colours are wanted there
 * @param columns its width in characters
 */
public record Terminal(boolean out, boolean err, boolean colour, int columns) {

    private static final int WIDTH_WITHOUT = 120;

    /** No terminal at all: for files, pipes and tests. */
    public static final Terminal NONE = new Terminal(false, false, false, WIDTH_WITHOUT);

    static Terminal ofLauncher(Map<String, String> environment) {
        String which = environment.getOrDefault("FERRY_TERMINAL", "");
        boolean colour = !environment.containsKey("NO_COLOR") && !"dumb".equals(environment.get("TERM"));
        int columns;
        try {
            columns = Integer.parseInt(environment.getOrDefault("FERRY_COLUMNS", ""));
        } catch (NumberFormatException e) {
            columns = WIDTH_WITHOUT;
        }
        return new Terminal(which.contains("out"), which.contains("err"), colour, Math.max(40, columns));
    }
}
