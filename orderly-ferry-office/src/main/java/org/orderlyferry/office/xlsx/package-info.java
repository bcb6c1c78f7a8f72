/** Spreadsheets of Office Open XML (ISO/IEC 29500): a sheet for each table, and one with their definitions. */
package org.orderlyferry.office.xlsx;
