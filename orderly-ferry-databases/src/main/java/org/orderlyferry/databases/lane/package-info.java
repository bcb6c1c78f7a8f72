/** What the ways of a system's values in and out share: prepared batches, escaped text, where a sent record came from. */
package org.orderlyferry.databases.lane;
