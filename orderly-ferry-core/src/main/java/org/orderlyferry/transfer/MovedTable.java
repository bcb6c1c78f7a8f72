package org.orderlyferry.transfer;

import java.time.Duration;
import org.orderlyferry.model.TableName;
import org.orderlyferry.tally.Tally;

/**
 * What became of one table.
 *
 * @param table which table
 * @param read how many records were read
 * @param written how many were written
 * @param bytes the size of the file that was written, or of the values that were loaded
 * @param tally of the records that were written
 * @param time how long it took
 */
public record MovedTable(TableName table, long read, long written, long bytes, Tally tally, Duration time) {}
