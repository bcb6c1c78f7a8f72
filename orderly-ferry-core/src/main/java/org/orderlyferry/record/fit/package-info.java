/** Whether values fit another type: checked or converted exactly, or refused value by value. */
@API(status = API.Status.INTERNAL)
package org.orderlyferry.record.fit;

import org.apiguardian.api.API;
