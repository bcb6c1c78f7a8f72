/**
 * A distributed file system as one of Java's own: paths that begin with {@code hdfs://}, over WebHDFS, the REST interface
 * that Apache Hadoop documents for HDFS.
 */
@API(status = API.Status.INTERNAL)
@NullMarked
package org.orderlyferry.cluster.hdfs;

import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
