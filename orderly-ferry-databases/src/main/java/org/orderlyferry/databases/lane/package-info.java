/** What the ways of a system's values in and out share: prepared batches, escaped text, where a sent record came from. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.databases.lane;

import org.apiguardian.api.API;
