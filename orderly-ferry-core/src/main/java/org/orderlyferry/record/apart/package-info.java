/** Nested values: taken apart into records of several tables with keys back, for files and for stores. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.record.apart;

import org.apiguardian.api.API;
