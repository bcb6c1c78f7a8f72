package org.orderlyferry.databases;

import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.orderlyferry.testkit.servers.TestSystem;

/** Every system that definitions go to: the four, those that nothing is known of but their drivers, and stand-ins for two. */
final class AllTargets {

    private static final AtomicInteger NUMBER = new AtomicInteger();

    static {
        // else it stands in the folder that the tests run in
        System.setProperty("derby.stream.error.method", "java.io.OutputStream.nullOutputStream");
    }

    private AllTargets() {}

    static Stream<String> names() {
        return Stream.concat(TestSystem.names(), Stream.of("Derby", "HSQLDB", "SQL Server", "Oracle"));
    }

    /** The address of an empty database. */
    static String fresh(String system, Path folder) throws Exception {
        String name = "target" + NUMBER.incrementAndGet();
        return switch (system) {
            case "Derby" -> "jdbc:derby:memory:" + name + ";create=true";
            case "HSQLDB" -> "jdbc:hsqldb:file:" + folder.resolve(name);
            case "SQL Server" -> "jdbc:stand-in:sqlserver:mem:" + name;
            case "Oracle" -> "jdbc:stand-in:oracle:mem:" + name;
            default -> TestSystem.of(system).fresh(folder);
        };
    }
}
