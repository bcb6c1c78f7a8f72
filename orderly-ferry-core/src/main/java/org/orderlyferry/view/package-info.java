/** Views that show what stands inside of documents as columns: which paths there are, of which types, and that all is shown. */
@NullMarked
package org.orderlyferry.view;

import org.jspecify.annotations.NullMarked;
