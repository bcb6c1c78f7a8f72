package org.orderlyferry.documents.store;

import com.fasterxml.jackson.databind.JsonNode;

/**
 * What a store takes, as it says itself.
 *
 * @param mostWrites documents of one request
 * @param largestDocument bytes of one document
 * @param longestId characters of an id
 */
record Limits(int mostWrites, int largestDocument, int longestId) {

    private static final int MOST_WRITES = 500;
    private static final int LARGEST = 1 << 20;
    private static final int LONGEST_ID = 1_500;

    static Limits of(Client client) {
        JsonNode said = client.get();
        return new Limits(
                Math.max(1, said.path("mostWrites").asInt(MOST_WRITES)),
                Math.max(1, said.path("largestDocument").asInt(LARGEST)),
                LONGEST_ID);
    }
}
