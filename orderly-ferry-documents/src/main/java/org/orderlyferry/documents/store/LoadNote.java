package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.orderlyferry.place.Leftover;

/**
 * How far a load has come, as the store keeps it: a collection whose description says which of ours stands for which of theirs. A
 * load makes its documents where nobody looks, and gives them their names at the end; what a killed one has left is put right by
 * the next. Each state is the name of a collection, so that it changes at one stroke.
 */
final class LoadNote {

    /** Documents are written; nothing of what was there is touched. */
    static final String WRITING = "ferry_load";
    /** Collections get their names; what had them before is there by others. */
    static final String PLACING = "ferry_placing";
    /** All have their names, and what had them before isn't needed any more. */
    static final String PLACED = "ferry_placed";

    private static final Pattern OURS = Pattern.compile("ferry_(load|placing|placed|(in|was)_[0-9a-f]{8}_\\d{1,6})");

    /**
     * A collection on its way.
     *
     * @param name what it will be called
     * @param incoming what it is called until then
     * @param was what the one that had the name before is called until the end
     */
    record Part(String name, String incoming, String was) {}

    private LoadNote() {}

    static Part part(String name, String load, int number) {
        return new Part(name, "ferry_in_" + load + "_" + number, "ferry_was_" + load + "_" + number);
    }

    static boolean isOurs(String collection) {
        return OURS.matcher(collection).matches();
    }

    static void write(Client client, String state, List<Part> parts) {
        ObjectNode body = Client.JSON.createObjectNode();
        ArrayNode list = body.putObject("description").putArray("parts");
        parts.forEach(p -> list.addObject()
                .put("name", p.name())
                .put("incoming", p.incoming())
                .put("was", p.was()));
        client.send("PUT", bytes(body), "collections", state);
    }

    static byte[] bytes(JsonNode body) {
        return body.toString().getBytes(StandardCharsets.UTF_8);
    }

    static void rename(Client client, String from, String to) {
        client.send("POST", bytes(Client.JSON.createObjectNode().put("name", to)), "collections", from, "name");
    }

    static void remove(Client client, String collection) {
        client.send("DELETE", new byte[0], "collections", collection);
    }

    /** The parts of a load that has left a note. */
    private static List<Part> parts(Client client, String state) {
        List<Part> parts = new ArrayList<>();
        for (JsonNode part :
                client.get("collections", state).path("description").path("parts")) {
            parts.add(new Part(
                    part.path("name").asText(),
                    part.path("incoming").asText(),
                    part.path("was").asText()));
        }
        // facts, believed only so far as they are of our making
        parts.removeIf(p -> !isOurs(p.incoming()) || !isOurs(p.was()) || isOurs(p.name()));
        return parts;
    }

    /**
     * Puts right what a killed load has left: what was replaced comes back, and what was on its way goes; or, where all had come to
     * its place, what isn't needed any more.
     *
     * @param there the collections that are there
     */
    static Leftover clear(Client client, Set<String> there) {
        if (there.contains(PLACED)) {
            parts(client, PLACED).stream()
                    .map(Part::was)
                    .filter(there::contains)
                    .forEach(w -> remove(client, w));
            remove(client, PLACED);
            return Leftover.FINISHED;
        }
        // the later state counts, where both are there
        String state = there.contains(PLACING) ? PLACING : WRITING;
        if (!there.contains(state)) {
            return Leftover.NONE;
        }
        for (Part part : parts(client, state)) {
            if (there.contains(part.incoming())) {
                remove(client, part.incoming());
            } else if (state.equals(PLACING) && there.contains(part.name())) {
                // it has its name already, and the load has not come to its end
                remove(client, part.name());
            }
            if (there.contains(part.was())) {
                rename(client, part.was(), part.name());
            }
        }
        if (state.equals(PLACING) && there.contains(WRITING)) {
            // tables that were left out
            parts(client, WRITING).stream()
                    .map(Part::incoming)
                    .filter(there::contains)
                    .filter(i -> parts(client, PLACING).stream()
                            .noneMatch(p -> p.incoming().equals(i)))
                    .forEach(i -> remove(client, i));
            remove(client, WRITING);
        }
        remove(client, state);
        return Leftover.UNDONE;
    }
}
