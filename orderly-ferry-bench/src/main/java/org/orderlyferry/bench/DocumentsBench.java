package org.orderlyferry.bench;

import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.bson.Document;
import org.orderlyferry.testkit.servers.LocalDocuments;

/**
 * Documents out and in, as whole commands next to a loop over the driver; in turns, medians of all rounds. The server is one in this
 * process's memory, which takes a core of its own.
 */
public final class DocumentsBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 3);
    private static final int DOCUMENTS = Integer.getInteger("bench.documents", 200_000);

    private DocumentsBench() {}

    /** Runs it all. */
    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("ferry-documents");
        try (LocalDocuments server = LocalDocuments.start();
                MongoClient client = MongoClients.create(server.url(""))) {
            PlainDocuments.fill(client.getDatabase("old").getCollection("sheet"), DOCUMENTS);
            List<Ratio> ratios = new ArrayList<>();
            out(server, folder, ratios);
            in(server, client, folder, ratios);
            Report.print(ratios);
        } finally {
            Trees.remove(folder);
        }
    }

    private static void out(LocalDocuments server, Path folder, List<Ratio> ratios) throws Exception {
        Commands commands = new Commands(folder);
        Measure loop =
                Measure.of("loop out", () -> commands.run(loop(server, "out", "old", folder.resolve("loop.jsonl"))));
        List<Measure> all = new ArrayList<>(List.of(loop));
        for (String form : List.of("fields", "whole")) {
            Path file = folder.resolve(form + ".jsonl");
            all.add(Measure.of("out by " + form, () -> {
                Files.deleteIfExists(file);
                commands.ferry("convert", server.url("old") + "?form=" + form, file);
            }));
        }
        Measure.rounds(ROUNDS, all);
        ratios.add(Ratio.of("documents out by fields / loop writing JSON lines", all.get(1), loop, 0.8));
        ratios.add(Ratio.of("documents out whole / the same", all.get(2), loop, 0.8));
    }

    private static void in(LocalDocuments server, MongoClient client, Path folder, List<Ratio> ratios)
            throws Exception {
        Commands commands = new Commands(folder);
        Measure loop = Measure.of("loop in", () -> {
            client.getDatabase("loop").drop();
            commands.run(loop(server, "in", "loop", folder.resolve("loop.jsonl")));
        });
        List<Measure> all = new ArrayList<>(List.of(loop));
        for (String form : List.of("fields", "whole")) {
            Path set = folder.resolve("set-" + form);
            commands.ferry("export", server.url("old") + "?form=" + form, set);
            all.add(Measure.of("in by " + form, () -> {
                client.getDatabase("new").drop();
                commands.ferry("load", set, server.url("new") + "?form=" + form);
            }));
        }
        Measure.rounds(ROUNDS, all);
        ratios.add(Ratio.of("documents in by fields / loop of bulk writes", all.get(1), loop, 1.1));
        ratios.add(Ratio.of("documents in whole / the same", all.get(2), loop, 1.1));
        long there =
                client.getDatabase("new").getCollection("sheet", Document.class).countDocuments();
        if (there != DOCUMENTS) {
            throw new IllegalStateException("of " + DOCUMENTS + " documents " + there + " are there");
        }
    }

    private static List<String> loop(LocalDocuments server, String way, String database, Path file) {
        List<String> command =
                Commands.java(System.getProperty("java.class.path"), PlainDocuments.class.getName(), false);
        command.addAll(List.of(way, server.url(""), database, file.toString()));
        return command;
    }
}
