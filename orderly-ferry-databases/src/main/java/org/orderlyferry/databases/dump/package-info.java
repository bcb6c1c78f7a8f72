/** Dumps of whole databases in forms of PostgreSQL's own, read as the scripts that they stand for. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.dump;

import org.apiguardian.api.API;
