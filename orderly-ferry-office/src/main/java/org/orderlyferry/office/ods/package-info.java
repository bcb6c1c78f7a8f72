/** Spreadsheets of OpenDocument (ISO/IEC 26300, version 1.2): a sheet for each table, and one with their definitions. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.office.ods;

import org.apiguardian.api.API;
