/** xBase tables: a {@code .dbf} file of fixed fields, and a {@code .dbt} or {@code .fpt} file of memos beside it. */
package org.orderlyferry.office.xbase;
