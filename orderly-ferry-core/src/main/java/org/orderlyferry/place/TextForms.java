package org.orderlyferry.place;

import java.util.List;
import org.apiguardian.api.API;

/**
 * Brings texts of a column to forms that are equal if the target takes the texts for the same, and only then: under a
 * collation by which letters' case or accents don't count, say. Safe for use by several threads.
 */
@API(status = API.Status.INTERNAL)
@FunctionalInterface
public interface TextForms {

    /** Texts that are the same only if they are so character by character. */
    TextForms AS_THEY_ARE = texts -> texts;

    /**
     * The forms of texts, in their order.
     *
     * @throws org.orderlyferry.problem.PlaceException if the target has to be asked, and can't be
     */
    List<String> of(List<String> texts);
}
