/**
 * XML as ISO/IEC 9075-14 (SQL/XML) maps tables to it: an element for the table, one called {@code row} for each record,
 * one for each value; with an XML Schema beside it. Other documents are read by the name of their records' element.
 */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.format.xml;

import org.apiguardian.api.API;
