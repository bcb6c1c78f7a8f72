/** What a table is, apart from any system: names, columns, logical types, keys and references. */
@NullMarked
package org.orderlyferry.model;

import org.jspecify.annotations.NullMarked;
