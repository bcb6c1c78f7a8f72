/** MariaDB, and MySQL by the same ways: its types, its catalogue, its definitions. */
package org.orderlyferry.databases.mariadb;
