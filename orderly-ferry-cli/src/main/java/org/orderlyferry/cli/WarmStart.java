package org.orderlyferry.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.Writer;
import java.net.URISyntaxException;
import java.net.URL;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.CodeSource;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.jar.JarEntry;
import java.util.jar.JarFile;
import java.util.stream.Stream;
import org.orderlyferry.progress.StopSignal;

/**
 * Does a little of what each command does, and loads what drivers need, so that the classes of it can be gathered in one
 * archive ({@code -Xshare:dump}) from which later starts map them into memory: loading and verifying them one
 * by one takes longer than many a command's work. The launcher runs it once after a build.
 */
public final class WarmStart {

    /** One class each of jars that are wanted whole: those of drivers whose servers aren't there when this runs, and ours. */
    private static final List<String> OF_JARS = List.of(
            "org.postgresql.Driver",
            "org.mariadb.jdbc.Driver",
            "org.orderlyferry.databases.dialect.Dialect",
            "org.orderlyferry.work.Export",
            "org.orderlyferry.cli.Main");

    private WarmStart() {}

    /** Runs it in a folder of its own, which is removed afterwards. */
    public static void main(String[] arguments) throws IOException {
        Path folder = Files.createTempDirectory("ferry-warm");
        try {
            commands(folder);
            OF_JARS.forEach(WarmStart::load);
        } finally {
            remove(folder);
        }
    }

    private static void commands(Path folder) throws IOException {
        Path csv = folder.resolve("label.csv");
        StringBuilder text = new StringBuilder("id,name,price,day\r\n");
        for (int i = 1; i <= 200; i++) {
            text.append(i).append(",\"moss, ").append(i).append("\",").append(i).append(".50,2021-03-04\r\n");
        }
        Files.writeString(csv, text);
        Path set = folder.resolve("set");
        Path sqlite = folder.resolve("a.sqlite");
        Path h2 = folder.resolve("b.mv.db");
        run("--help");
        run("look", csv);
        run("load", csv, sqlite);
        run("export", sqlite, set);
        run("look", set);
        run("look", sqlite);
        run("load", set, h2);
        run("reconcile", sqlite, h2);
        run("reconcile", sqlite, h2, "--depth", "rows");
        run("convert", set, folder.resolve("label.jsonl"));
        run("load", csv, sqlite, "--onto", "merge");
        run("look", set, "--json");
        Path crossing = folder.resolve("crossing.yaml");
        run("draft", h2, folder.resolve("c.sqlite"), "--make-missing", "--file", crossing);
        run("check", crossing);
        run("run", crossing);
        run("run", crossing, "--catch-up");
        run("report", crossing);
        run("undo", crossing);
        run("no-such-command");
    }

    private static void run(Object... arguments) {
        PrintWriter nowhere = new PrintWriter(Writer.nullWriter());
        Console console = new Console(nowhere, nowhere, Terminal.NONE, new StopSignal());
        FerryCommand.run(console, Stream.of(arguments).map(Object::toString).toArray(String[]::new));
    }

    /** Loads all classes of a class's own jar; those that need what isn't here are of no use either. */
    private static void load(String one) {
        try {
            CodeSource source = Class.forName(one).getProtectionDomain().getCodeSource();
            URL place = source == null ? null : source.getLocation();
            if (place == null || !place.getPath().endsWith(".jar")) {
                return;
            }
            List<String> names = new ArrayList<>();
            try (JarFile jar = new JarFile(Path.of(place.toURI()).toFile())) {
                jar.stream()
                        .map(JarEntry::getName)
                        .filter(n -> n.endsWith(".class") && !n.startsWith("META-INF") && !n.contains("-info"))
                        .forEach(n -> names.add(
                                n.substring(0, n.length() - ".class".length()).replace('/', '.')));
            }
            for (String name : names) {
                loadOne(name);
            }
        } catch (ClassNotFoundException | IOException | URISyntaxException e) {
            throw new IllegalStateException(one + " can't be loaded", e);
        }
    }

    private static void loadOne(String name) {
        try {
            Class.forName(name, false, WarmStart.class.getClassLoader());
        } catch (ClassNotFoundException | LinkageError e) {
            org.slf4j.LoggerFactory.getLogger(WarmStart.class).debug("{} isn't needed", name, e);
        }
    }

    private static void remove(Path folder) throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        }
    }
}
