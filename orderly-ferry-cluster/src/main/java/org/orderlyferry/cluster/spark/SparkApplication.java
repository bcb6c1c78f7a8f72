package org.orderlyferry.cluster.spark;

import org.apache.spark.SparkConf;
import org.apache.spark.api.java.JavaSparkContext;

/** This process as a Spark application. */
final class SparkApplication {

    private SparkApplication() {}

    static JavaSparkContext start() {
        SparkConf settings = new SparkConf()
                .setIfMissing("spark.app.name", "Orderly Ferry")
                .setIfMissing("spark.master", "local[*]")
                // a page of jobs, of which each slice is one, keeps a bounded number of them
                .setIfMissing("spark.ui.retainedJobs", "1000")
                .setIfMissing("spark.ui.retainedStages", "1000")
                .setIfMissing("spark.ui.retainedTasks", "1000")
                // how far slices are is heard with each
                .setIfMissing("spark.executor.heartbeatInterval", "2s")
                // progress is shown by ourselves
                .set("spark.ui.showConsoleProgress", "false");
        return new JavaSparkContext(settings);
    }
}
