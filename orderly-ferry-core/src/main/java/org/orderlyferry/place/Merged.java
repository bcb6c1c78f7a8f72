package org.orderlyferry.place;

/**
 * What a merge came to for one table.
 *
 * @param inserted records whose key was not there
 * @param updated records whose key was there with other values
 * @param unchanged records that were there already, with the same values
 */
public record Merged(long inserted, long updated, long unchanged) {}
