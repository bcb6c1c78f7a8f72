package org.orderlyferry.documents.mongodb;

import com.mongodb.WriteError;
import org.bson.BsonDocument;

/** Why a server refuses a document, for people who don't know what a load calls collections on its way. */
final class Refusal {

    private static final int DUPLICATE = 11000;
    private static final int INVALID = 121;

    private Refusal() {}

    /**
     * What it says.
     *
     * @param called the collection as it is called on its way
     * @param name as it is called for good
     */
    static String reason(WriteError error, String called, String name) {
        String said = error.getMessage().replace(called, name);
        return switch (error.getCode()) {
            case DUPLICATE -> "a key is there twice: " + said;
            case INVALID -> "it isn't as the collection's validator has it: " + details(error) + said;
            default -> said;
        };
    }

    private static String details(WriteError error) {
        BsonDocument details = error.getDetails();
        return details.isEmpty() ? "" : details.toJson() + ": ";
    }
}
