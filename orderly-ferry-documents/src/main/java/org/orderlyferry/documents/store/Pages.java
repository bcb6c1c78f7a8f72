package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.problem.PlaceException;

/** A collection's documents, page by page; the next one is on its way while one is looked at. Not safe for use by several threads. */
final class Pages implements AutoCloseable {

    private final Client client;
    private final String collection;
    private @Nullable CompletableFuture<JsonNode> next;
    private String after = "";

    Pages(Client client, String collection) {
        this.client = client;
        this.collection = collection;
        ask("");
    }

    private void ask(String from) {
        next = CompletableFuture.supplyAsync(() -> client.page(collection, from));
    }

    /** The next page's documents; null behind the last. */
    @Nullable
    JsonNode next() {
        if (next == null) {
            return null;
        }
        JsonNode page;
        try {
            page = next.join();
        } catch (CompletionException e) {
            throw e.getCause() instanceof RuntimeException own ? own : e;
        }
        String end = page.path("after").asText();
        if (!end.isEmpty() && end.equals(after)) {
            throw new PlaceException(client.shown(), "gives the same page of " + collection + " again and again", null);
        }
        after = end;
        next = null;
        if (!end.isEmpty()) {
            ask(end);
        }
        return page.path("documents");
    }

    @Override
    public void close() {
        if (next != null) {
            next.cancel(true);
        }
    }
}
