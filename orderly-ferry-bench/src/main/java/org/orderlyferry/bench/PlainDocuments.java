package org.orderlyferry.bench;

import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import com.mongodb.client.MongoCollection;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Date;
import java.util.List;
import java.util.Random;
import org.bson.Document;
import org.bson.json.JsonMode;
import org.bson.json.JsonWriterSettings;
import org.bson.types.Decimal128;

/** What somebody would write over the driver: documents to lines of JSON, and lines to documents. A process of its own. */
final class PlainDocuments {

    private static final int BATCH = 1000;

    private PlainDocuments() {}

    /**
     * Does one of these.
     *
     * @param arguments {@code out} or {@code in}, the server's address, the database, and the file
     */
    public static void main(String[] arguments) throws Exception {
        try (MongoClient client = MongoClients.create(arguments[1])) {
            MongoCollection<Document> sheets = client.getDatabase(arguments[2]).getCollection("sheet");
            Path file = Path.of(arguments[3]);
            if (arguments[0].equals("out")) {
                out(sheets, file);
            } else {
                in(sheets, file);
            }
        }
    }

    private static void out(MongoCollection<Document> sheets, Path file) throws Exception {
        JsonWriterSettings settings =
                JsonWriterSettings.builder().outputMode(JsonMode.EXTENDED).build();
        try (BufferedWriter out = Files.newBufferedWriter(file)) {
            for (Document sheet : sheets.find().batchSize(BATCH)) {
                out.write(sheet.toJson(settings));
                out.write('\n');
            }
        }
    }

    private static void in(MongoCollection<Document> sheets, Path file) throws Exception {
        List<Document> batch = new ArrayList<>();
        try (BufferedReader in = Files.newBufferedReader(file)) {
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                batch.add(Document.parse(line));
                if (batch.size() == BATCH) {
                    sheets.insertMany(batch);
                    batch.clear();
                }
            }
        }
        if (!batch.isEmpty()) {
            sheets.insertMany(batch);
        }
    }

    /** Makes documents of every usual kind of value. */
    static void fill(MongoCollection<Document> sheets, int count) {
        Random random = new Random(5);
        List<Document> batch = new ArrayList<>();
        for (int i = 1; i <= count; i++) {
            batch.add(new Document("_id", (long) i)
                    .append("barcode", "QM" + i)
                    .append("taxon", random.nextInt(300))
                    .append("mass", random.nextInt(100_000) / 1000.0)
                    .append("value", Decimal128.parse(Double.toString(random.nextInt(1_000_000) / 100.0)))
                    .append("seen", new Date(1_500_000_000_000L + random.nextInt(1_000_000_000)))
                    .append("dry", random.nextBoolean())
                    .append("shelf", new Document("hall", random.nextInt(9)).append("no", "S" + random.nextInt(99)))
                    .append("labels", List.of("a" + random.nextInt(9), "b" + random.nextInt(99)))
                    .append("remarks", i % 3 == 0 ? null : "near Osmmodale, sheet " + random.nextInt(99_999)));
            if (batch.size() == BATCH) {
                sheets.insertMany(batch);
                batch.clear();
            }
        }
        if (!batch.isEmpty()) {
            sheets.insertMany(batch);
        }
    }
}
