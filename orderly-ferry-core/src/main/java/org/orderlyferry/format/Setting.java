package org.orderlyferry.format;

/**
 * Something that can be told about a file's form.
 *
 * @param name for example {@code delimiter}; where W3C CSV on the Web has a word for it, that word
 * @param otherwise what holds where nothing is said
 * @param meaning one sentence
 */
public record Setting(String name, String otherwise, String meaning) {}
