/** Delimited text of any dialect: other delimiters, quotes, escapes and trimming than those of RFC 4180. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.format.delimited;

import org.apiguardian.api.API;
