/** Moving records: export to a set, load into a place, in the order that references ask for. */
package org.orderlyferry.work;
