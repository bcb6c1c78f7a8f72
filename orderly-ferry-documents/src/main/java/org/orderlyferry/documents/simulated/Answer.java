package org.orderlyferry.documents.simulated;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.Optional;

/**
 * What is answered to a request.
 *
 * @param status of HTTP
 * @param retryAfter seconds for Retry-After; negative for none
 */
record Answer(int status, Optional<JsonNode> body, int retryAfter) {

    static Answer ok(JsonNode body) {
        return new Answer(200, Optional.of(body), -1);
    }

    static Answer done(int status) {
        return new Answer(status, Optional.empty(), -1);
    }

    /** What is wrong, as RFC 9457 has it. */
    static Answer problem(int status, String detail) {
        ObjectNode body = JsonNodeFactory.instance.objectNode();
        body.put("status", status).put("detail", detail);
        return new Answer(status, Optional.of(body), -1);
    }

    /** What is wrong with one of several documents. */
    static Answer problem(int status, String detail, String document) {
        Answer answer = problem(status, detail);
        ((ObjectNode) answer.body.orElseThrow()).put("document", document);
        return answer;
    }

    Answer after(int seconds) {
        return new Answer(status, body, seconds);
    }
}
