package org.orderlyferry.dist;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/**
 * An archive that was unpacked, as somebody has installed it.
 *
 * @param home where it was unpacked
 * @param path which folders programs are looked for in
 * @param environment variables besides
 */
record Installed(Path home, String path, Map<String, String> environment) {

    /** What the launcher calls besides Java. */
    private static final List<String> TOOLS = List.of(
            "bash",
            "cksum",
            "cut",
            "dirname",
            "env",
            "locale",
            "ls",
            "mkdir",
            "mv",
            "nice",
            "readlink",
            "rm",
            "sed",
            "stty");

    static final String NAME = System.getProperty("ferry.name");

    /** Where the build has put the archives. */
    static Path archive(String ending) {
        return Path.of(System.getProperty("ferry.archives"), NAME + ending);
    }

    /** Unpacks one into a folder that is empty. */
    static Installed unpack(String ending, Path folder) throws Exception {
        Files.createDirectories(folder);
        List<String> command = ending.endsWith(".zip")
                // every JDK has it; it keeps no rights, as some programs that unpack a zip file don't
                ? List.of(
                        java().resolveSibling("jar").toString(),
                        "xf",
                        archive(ending).toString())
                : List.of("tar", "xzf", archive(ending).toString());
        Process process = new ProcessBuilder(command)
                .directory(folder.toFile())
                .inheritIO()
                .start();
        if (process.waitFor() != 0) {
            throw new IllegalStateException(archive(ending) + " can't be unpacked");
        }
        return new Installed(folder.resolve(NAME), System.getenv("PATH"), Map.of());
    }

    static Path java() {
        return Path.of(System.getProperty("java.home"), "bin", "java");
    }

    /** The same where no Java is to be found. */
    Installed withoutJava(Path tools) throws IOException {
        Files.createDirectories(tools);
        for (String tool : TOOLS) {
            for (String folder : path.split(":")) {
                Path program = Path.of(folder, tool);
                if (Files.isExecutable(program) && !Files.exists(tools.resolve(tool))) {
                    Files.createSymbolicLink(tools.resolve(tool), program);
                }
            }
        }
        return new Installed(home, tools.toString(), environment);
    }

    /** The same with more variables. */
    Installed with(Map<String, String> more) {
        return new Installed(home, path, more);
    }

    /** What a command came to. */
    record Said(int code, String text) {}

    /** Runs a command in a folder. */
    Said ferry(Path where, String... arguments) throws Exception {
        List<String> command = new ArrayList<>(
                List.of("bash", home.resolve("bin").resolve("ferry").toString()));
        command.addAll(List.of(arguments));
        Path out = Files.createTempFile("ferry-said", ".txt");
        ProcessBuilder builder = new ProcessBuilder(command)
                .directory(where.toFile())
                .redirectErrorStream(true)
                .redirectOutput(out.toFile());
        builder.environment().put("PATH", path);
        builder.environment().remove("JAVA_HOME");
        builder.environment().put("FERRY_CACHE", "none");
        builder.environment().putAll(environment);
        Process process = builder.start();
        if (!process.waitFor(120, TimeUnit.SECONDS)) {
            process.destroyForcibly();
            throw new IllegalStateException(String.join(" ", command) + " doesn't come to its end");
        }
        String text = Files.readString(out);
        Files.delete(out);
        return new Said(process.exitValue(), text);
    }

    /** All files, by their names. */
    List<String> files() throws IOException {
        try (Stream<Path> all = Files.walk(home)) {
            return all.map(p -> home.relativize(p).toString()).sorted().toList();
        }
    }
}
