/** Desktop databases of Microsoft Access: a whole database in one file. */
package org.orderlyferry.office.access;
