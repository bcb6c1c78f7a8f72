/** Names that a system can't take, brought to ones that it can, by a rule that anyone can follow. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.naming;

import org.apiguardian.api.API;
