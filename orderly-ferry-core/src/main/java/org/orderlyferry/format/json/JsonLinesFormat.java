package org.orderlyferry.format.json;

import java.util.List;

/** A file with an object a line. */
public final class JsonLinesFormat extends JsonFormat {

    /** Made by the {@link java.util.ServiceLoader}. */
    public JsonLinesFormat() {
        super(Shape.LINES);
    }

    @Override
    public String name() {
        return "JSON lines";
    }

    @Override
    public List<String> endings() {
        return List.of("jsonl", "ndjson");
    }

    @Override
    public boolean looksLike(byte[] head) {
        return Beginning.of(head).isObjects();
    }
}
