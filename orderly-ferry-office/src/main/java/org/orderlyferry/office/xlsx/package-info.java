/** Spreadsheets of Office Open XML (ISO/IEC 29500): a sheet for each table, and one with their definitions. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.office.xlsx;

import org.apiguardian.api.API;
