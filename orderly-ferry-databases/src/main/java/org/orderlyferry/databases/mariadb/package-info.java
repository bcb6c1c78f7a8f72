/** MariaDB, and MySQL by the same ways: its types, its catalogue, its definitions. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.mariadb;

import org.apiguardian.api.API;
