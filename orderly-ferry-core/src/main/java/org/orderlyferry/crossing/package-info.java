/** One migration, described in a file: drafted, checked, run so that it goes on wherever it stopped, and undone. */
package org.orderlyferry.crossing;
