/** The text of each logical type, as W3C XML Schema Part 2 has it: checked, brought to one form, and made from Java's values. */
package org.orderlyferry.record.text;
