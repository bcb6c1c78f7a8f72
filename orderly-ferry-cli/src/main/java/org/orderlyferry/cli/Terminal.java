package org.orderlyferry.cli;

import java.util.Map;

/**
 * What is known of the terminal. Java can't tell which of its outputs is one, so the launcher does.
 *
 * @param out whether results go to a terminal
 * @param err whether progress goes to a terminal
 * @param colour when colours are used
 * @param columns its width in characters
 */
public record Terminal(boolean out, boolean err, Colour colour, int columns) {

    private static final int WIDTH_WITHOUT = 120;

    /** No terminal at all: for files, pipes and tests. */
    public static final Terminal NONE = new Terminal(false, false, Colour.AUTO, WIDTH_WITHOUT);

    /** The same, where a command line may say when colours are used. */
    Terminal told(String... arguments) {
        return new Terminal(out, err, colour.or(arguments), columns);
    }

    static Terminal ofLauncher(Map<String, String> environment) {
        String which = environment.getOrDefault("FERRY_TERMINAL", "");
        // no-color.org: whatever it is, unless it is empty
        boolean plain = !environment.getOrDefault("NO_COLOR", "").isEmpty() || "dumb".equals(environment.get("TERM"));
        int columns;
        try {
            columns = Integer.parseInt(environment.getOrDefault("FERRY_COLUMNS", ""));
        } catch (NumberFormatException e) {
            columns = WIDTH_WITHOUT;
        }
        return new Terminal(
                which.contains("out"),
                which.contains("err"),
                plain ? Colour.NEVER : Colour.AUTO,
                Math.max(40, columns));
    }
}
