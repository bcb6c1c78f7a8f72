package org.orderlyferry.cluster.spark;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.work.SliceResult;

/** What a task has come to, as text: its result, or why it has none. */
final class Outcome {

    private static final ObjectMapper JSON = new ObjectMapper();
    private static final int LONGEST = 1000;

    private final JsonNode node;

    private Outcome(JsonNode node) {
        this.node = node;
    }

    static String of(SliceResult result) {
        return JSON.createObjectNode().put("result", result.toJson()).toString();
    }

    static String of(FerryException failure) {
        ObjectNode node = JSON.createObjectNode().put("failure", failure.getMessage());
        if (failure instanceof PlaceException place) {
            node.put("place", place.place()).put("denied", place.isDenied());
        }
        if (failure instanceof UsageException) {
            node.put("usage", true);
        }
        return node.toString();
    }

    static Outcome parse(String text) {
        try {
            return new Outcome(JSON.readTree(text));
        } catch (JsonProcessingException e) {
            throw new UsageException("an executor's answer is none", e);
        }
    }

    /**
     * The result.
     *
     * @throws FerryException what the task failed with
     */
    SliceResult result() {
        if (node.has("result")) {
            return SliceResult.parse(node.path("result").asText());
        }
        String message = node.path("failure").asText();
        if (node.path("usage").asBoolean()) {
            throw new UsageException(message);
        }
        String place = node.path("place").asText("an executor");
        String bare = message.startsWith(place + ": ") ? message.substring(place.length() + 2) : message;
        throw new PlaceException(place, bare, node.path("denied").asBoolean(), false, null);
    }

    /** Spark puts whole stack traces of other machines into its messages. */
    static String line(Throwable failure) {
        String text = String.valueOf(failure.getMessage())
                .lines()
                .filter(l -> !l.isBlank())
                .limit(2)
                .reduce((a, b) -> a + " " + b)
                .orElse("");
        String bare = text.replaceAll("\\p{Cntrl}", " ").replaceAll("\\s+", " ").strip();
        return bare.length() > LONGEST ? bare.substring(0, LONGEST) + "…" : bare;
    }
}
