/** Folders that tests work in. */
@NullMarked
package org.orderlyferry.testkit.folder;

import org.jspecify.annotations.NullMarked;
