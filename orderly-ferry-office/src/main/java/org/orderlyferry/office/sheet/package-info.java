/** What all kinds of spreadsheets have in common: sheets with headings as tables, kinds of cells, a sheet of definitions. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.office.sheet;

import org.apiguardian.api.API;
