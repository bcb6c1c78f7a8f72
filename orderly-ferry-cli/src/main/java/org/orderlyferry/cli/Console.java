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

    private static final JsonMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    Style style() {
        return new Style(terminal.out() && terminal.colour());
    }

    void line(String text) {
        out.println(text);
    }

    void json(JsonNode node) {
        try {
            out.println(JSON.writeValueAsString(node));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a tree of plain values can always be written", e);
        }
    }
}
