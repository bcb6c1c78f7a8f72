package org.orderlyferry.format;

/**
 * A small file that stands beside one with records.
 *
 * @param name without a folder
 * @param content its bytes
 */
public record SideFile(String name, byte[] content) {}
