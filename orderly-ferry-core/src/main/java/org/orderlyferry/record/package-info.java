/** How records travel: batches of value text in bytes, their readers and writers, and the text of each type. */
package org.orderlyferry.record;
