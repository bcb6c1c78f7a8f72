/**
 * Slices run by Apache Spark: the process that leads the work hands them out as text, and takes texts back. Nothing of Spark is
 * needed until then; its own classes come from the cluster.
 */
@API(status = API.Status.INTERNAL)
@NullMarked
package org.orderlyferry.cluster.spark;

import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
