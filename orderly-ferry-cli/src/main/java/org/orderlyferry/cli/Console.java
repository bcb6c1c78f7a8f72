package org.orderlyferry.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.PrintWriter;
import org.orderlyferry.progress.StopSignal;

/**
 * Where a command's results and messages go.
 *
 * @param out results
 * @param err progress and messages
 * @param stop asks running work to stop
 */
public record Console(PrintWriter out, PrintWriter err, Terminal terminal, StopSignal stop) {

    private static final String DEEPER = "  ";

    Style style() {
        return new Style(terminal.colour().on(terminal.out()));
    }

    void line(String text) {
        out.println(style().printed(text));
    }

    /** Says what went wrong. */
    void problem(String text) {
        err.println(Escapes.shown(text));
    }

    /** A line that a terminal's edge would cut goes on below, further in; elsewhere it stays one line. */
    void wrapped(String indent, String text) {
        // a name with a line of its own would look like something that we say
        String rest = indent + text.replace("\r", "\\r").replace("\n", "\\n");
        while (terminal.out() && Style.bare(rest).length() > terminal.columns()) {
            int end = rest.lastIndexOf(' ', terminal.columns());
            if (end <= indent.length() + DEEPER.length()) {
                break;
            }
            line(rest.substring(0, end));
            rest = indent + DEEPER + rest.substring(end + 1);
        }
        line(rest);
    }

    void json(JsonNode node) {
        try {
            // made here: most commands write none, and making it takes as long as their work
            out.println(JsonMapper.builder()
                    .enable(SerializationFeature.INDENT_OUTPUT)
                    .build()
                    .writeValueAsString(node));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a tree of plain values can always be written", e);
        }
    }
}
