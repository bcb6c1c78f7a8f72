/** Reports of what a record tells: a page, a text for tickets. Laid out once, and written by templates that escape all. */
package org.orderlyferry.cli.report;
