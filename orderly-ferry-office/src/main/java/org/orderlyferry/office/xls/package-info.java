/** Spreadsheets of the binary format that came before Office Open XML (BIFF8, [MS-XLS]): a sheet for each table, and one with their definitions. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.office.xls;

import org.apiguardian.api.API;
