/** Whether values fit another type: checked or converted exactly, or refused value by value. */
package org.orderlyferry.record.fit;
