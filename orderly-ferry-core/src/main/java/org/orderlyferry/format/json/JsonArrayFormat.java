package org.orderlyferry.format.json;

import java.util.List;

/** A file with an array of objects. */
public final class JsonArrayFormat extends JsonFormat {

    /** Made by the {@link java.util.ServiceLoader}. */
    public JsonArrayFormat() {
        super(Shape.ARRAY);
    }

    @Override
    public String name() {
        return "JSON";
    }

    @Override
    public List<String> endings() {
        return List.of("json");
    }

    @Override
    public boolean looksLike(byte[] head) {
        return Beginning.of(head).isArrayOrObject();
    }
}
