/** How records travel: batches of value text in bytes, their readers and writers. */
package org.orderlyferry.record;
