/** H2: its types, its catalogue, its definitions. */
package org.orderlyferry.databases.h2;
