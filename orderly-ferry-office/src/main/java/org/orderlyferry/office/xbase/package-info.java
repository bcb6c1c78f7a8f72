/** xBase tables: a {@code .dbf} file of fixed fields, and a {@code .dbt} or {@code .fpt} file of memos beside it. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.office.xbase;

import org.apiguardian.api.API;
