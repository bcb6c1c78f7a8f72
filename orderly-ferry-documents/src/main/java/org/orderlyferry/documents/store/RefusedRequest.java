package org.orderlyferry.documents.store;

/** A request that the store has understood and refused. */
final class RefusedRequest extends RuntimeException {

    private static final long serialVersionUID = 1L;

    private final int status;
    private final String document;

    /**
     * As the store says it (RFC 9457).
     *
     * @param document the id of the document that is the reason; empty for none
     */
    RefusedRequest(int status, String detail, String document) {
        super(detail);
        this.status = status;
        this.document = document;
    }

    int status() {
        return status;
    }

    String document() {
        return document;
    }
}
