package org.orderlyferry.cluster.spark;

import java.util.Map;
import java.util.Properties;
import java.util.concurrent.ConcurrentHashMap;
import org.apache.spark.api.java.JavaSparkContext;
import org.apache.spark.scheduler.AccumulableInfo;
import org.apache.spark.scheduler.SparkListener;
import org.apache.spark.scheduler.SparkListenerExecutorMetricsUpdate;
import org.apache.spark.scheduler.SparkListenerJobStart;
import org.apache.spark.util.LongAccumulator;
import org.orderlyferry.model.TableName;
import org.orderlyferry.progress.ProgressListener;
import scala.Tuple4;
import scala.collection.immutable.Seq;
import scala.jdk.javaapi.CollectionConverters;

/**
 * How far slices are that executors move: they count in accumulators, which Spark's heartbeats bring along while a task runs. The
 * counts of each attempt are its own.
 */
final class SliceProgress extends SparkListener {

    private static final String GROUP = "spark.jobGroup.id";

    private final LongAccumulator rows;
    private final LongAccumulator bytes;
    private final Map<String, Follower> byGroup = new ConcurrentHashMap<>();
    private final Map<Integer, String> groups = new ConcurrentHashMap<>();

    /** Hears how many records of a slice have moved. */
    @FunctionalInterface
    interface Follower {
        void moved(long rows, long bytes);
    }

    SliceProgress(JavaSparkContext spark) {
        rows = spark.sc().longAccumulator("records moved");
        bytes = spark.sc().longAccumulator("bytes moved");
        spark.sc().addSparkListener(this);
    }

    /** Counts what an executor moves, there. */
    static ProgressListener counting(LongAccumulator rows, LongAccumulator bytes) {
        return new ProgressListener() {
            @Override
            public void moved(TableName table, long count, long size) {
                rows.add(count);
                bytes.add(size);
            }
        };
    }

    LongAccumulator rows() {
        return rows;
    }

    LongAccumulator bytes() {
        return bytes;
    }

    /** Follows the job of a group until it is done with. */
    void follow(String group, Follower follower) {
        byGroup.put(group, follower);
    }

    void leave(String group) {
        byGroup.remove(group);
        groups.values().removeIf(group::equals);
    }

    @Override
    public void onJobStart(SparkListenerJobStart job) {
        Properties properties = job.properties();
        String group = properties == null ? null : properties.getProperty(GROUP);
        if (group != null && byGroup.containsKey(group)) {
            CollectionConverters.asJava(job.stageInfos()).forEach(stage -> groups.put(stage.stageId(), group));
        }
    }

    @Override
    public void onExecutorMetricsUpdate(SparkListenerExecutorMetricsUpdate beat) {
        for (Tuple4<Object, Object, Object, Seq<AccumulableInfo>> task :
                CollectionConverters.asJava(beat.accumUpdates())) {
            String group = groups.get((Integer) task._2());
            Follower follower = group == null ? null : byGroup.get(group);
            if (follower != null) {
                follower.moved(of(task._4(), rows), of(task._4(), bytes));
            }
        }
    }

    private static long of(Seq<AccumulableInfo> updates, LongAccumulator counted) {
        for (AccumulableInfo info : CollectionConverters.asJava(updates)) {
            if (info.id() == counted.id()
                    && info.update().isDefined()
                    && info.update().get() instanceof Long count) {
                return count;
            }
        }
        return 0;
    }
}
