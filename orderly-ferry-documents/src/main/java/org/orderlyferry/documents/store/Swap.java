package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.List;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Collections that are written anew beside those that are there, and take their places all at once: also where records are added,
 * changed or taken out, since a store has no transactions of more than one request.
 */
final class Swap {

    private static final int PAGE = 500;

    private Swap() {}

    /** Makes a collection that holds what another one holds, with its description. */
    static void copy(Client client, String from, String to) {
        ObjectNode body = Client.JSON.createObjectNode();
        JsonNode description = client.get("collections", from).path("description");
        if (description.isObject()) {
            body.set("description", description);
        }
        client.send("PUT", LoadNote.bytes(body), "collections", to);
        try (Pages pages = new Pages(client, from)) {
            for (@Nullable JsonNode page = pages.next(); page != null; page = pages.next()) {
                ArrayNode writes = Client.JSON.createArrayNode();
                for (JsonNode document : page) {
                    writes.add(document);
                    if (writes.size() == PAGE) {
                        write(client, to, writes);
                        writes = Client.JSON.createArrayNode();
                    }
                }
                if (!writes.isEmpty()) {
                    write(client, to, writes);
                }
            }
        }
    }

    /** Writes as the store takes them. */
    static JsonNode write(Client client, String collection, ArrayNode writes) {
        ObjectNode body = Client.JSON.createObjectNode();
        body.set("writes", writes);
        return client.write(collection, LoadNote.bytes(body));
    }

    /**
     * Gives collections their names; what fails in between is undone by {@link LoadNote#clear}.
     *
     * @param placed those that are to be there
     * @param leftOut those that aren't
     * @param all the names of all collections, asked anew
     */
    static void place(
            Client client, List<LoadNote.Part> placed, List<LoadNote.Part> leftOut, Supplier<Set<String>> all) {
        LoadNote.write(client, LoadNote.PLACING, placed);
        leftOut.forEach(p -> LoadNote.remove(client, p.incoming()));
        LoadNote.remove(client, LoadNote.WRITING);
        Set<String> there = all.get();
        for (LoadNote.Part part : placed) {
            if (there.contains(part.name())) {
                LoadNote.rename(client, part.name(), part.was());
            }
            LoadNote.rename(client, part.incoming(), part.name());
        }
        // from here on it is so
        LoadNote.rename(client, LoadNote.PLACING, LoadNote.PLACED);
    }
}
