package org.orderlyferry.format;

import org.jspecify.annotations.NullMarked;

/**
 * Something that can be told about a file's form.
 *
 * @param name for example {@code delimiter}; where W3C CSV on the Web has a word for it, that word
 * @param otherwise what holds where nothing is said
 * @param meaning one sentence
 */
@NullMarked
public record Setting(String name, String otherwise, String meaning) {}
