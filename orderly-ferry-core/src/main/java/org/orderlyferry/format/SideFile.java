package org.orderlyferry.format;

import org.jspecify.annotations.NullMarked;

/**
 * A small file that stands beside one with records.
 *
 * @param name without a folder
 * @param content its bytes
 */
@NullMarked
public record SideFile(String name, byte[] content) {}
