/** JSON (RFC 8259): an array of objects, an object a line, or objects by their keys; with a JSON Schema beside it. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.format.json;

import org.apiguardian.api.API;
