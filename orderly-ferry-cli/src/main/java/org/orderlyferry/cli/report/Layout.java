package org.orderlyferry.cli.report;

import java.util.List;

/**
 * A whole report, before it takes a form.
 *
 * @param title of the page
 * @param mark good, bad or open
 * @param verdict in one line
 * @param facts what moved, from where to where, when
 * @param sections those that have something to say
 * @param signatures who signs
 */
record Layout(
        String title,
        String mark,
        String verdict,
        List<Fact> facts,
        List<Section> sections,
        List<String> signatures,
        String made) {

    /** A name and what there is to say of it. */
    record Fact(String name, String text) {}
}
