/** The export set: a folder of export files with their definitions, tallies and checksums. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.exportset;

import org.apiguardian.api.API;
