package org.orderlyferry.place;

import org.apiguardian.api.API;

/**
 * A file that holds a part of a table and stands for itself. A plain value.
 *
 * @param path where it is, relative to the set that it belongs to, with {@code /} between names
 * @param bytes its size
 * @param sha256 its checksum, in hexadecimal
 */
@API(status = API.Status.INTERNAL)
public record PartFile(String path, long bytes, String sha256) {}
