/** What a system has to say of itself to be a place: its catalogue, types, names, reading, writing and settling. */
package org.orderlyferry.databases.dialect;
