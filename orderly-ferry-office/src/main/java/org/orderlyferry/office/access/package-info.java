/** Desktop databases of Microsoft Access: a whole database in one file. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.office.access;

import org.apiguardian.api.API;
