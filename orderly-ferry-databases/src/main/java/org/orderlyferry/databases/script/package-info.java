/** Scripts of SQL as files: written for a chosen system, and read without any. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.script;

import org.apiguardian.api.API;
