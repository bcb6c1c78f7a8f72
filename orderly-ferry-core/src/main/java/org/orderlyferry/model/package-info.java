/** What a table is, apart from any system: names, columns, logical types, keys and references. */
package org.orderlyferry.model;
