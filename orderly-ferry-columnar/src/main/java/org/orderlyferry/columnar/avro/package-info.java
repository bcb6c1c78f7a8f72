/** Object container files of Apache Avro (specification 1.12): one table each, in blocks of records. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.columnar.avro;

import org.apiguardian.api.API;
