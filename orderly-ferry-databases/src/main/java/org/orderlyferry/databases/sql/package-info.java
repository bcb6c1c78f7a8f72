/** SQL text: taking it apart into tokens, and carrying expressions from one system's SQL to another's. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.sql;

import org.apiguardian.api.API;
