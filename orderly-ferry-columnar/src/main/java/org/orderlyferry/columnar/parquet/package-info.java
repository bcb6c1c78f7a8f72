/** Files of Apache Parquet (format version 2): one table each, column by column in groups of rows. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.columnar.parquet;

import org.apiguardian.api.API;
