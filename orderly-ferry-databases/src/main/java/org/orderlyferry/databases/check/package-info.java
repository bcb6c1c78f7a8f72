/** What a target's checks say of records that come to it, as far as that can be told without the target. */
@API(status = API.Status.INTERNAL)
@NullMarked
package org.orderlyferry.databases.check;

import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
