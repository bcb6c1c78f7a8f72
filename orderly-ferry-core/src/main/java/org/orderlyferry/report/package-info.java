/** What is written down of a piece of work, for people and machines that weren't there: a record, as JSON. */
package org.orderlyferry.report;
