package org.orderlyferry.crossing;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.place.Cut;
import org.orderlyferry.problem.PlaceException;

/** What a crossing does, in JSON, to be kept with a run: one that goes on must do the same. How fast doesn't count. */
final class CrossingJson {

    private static final ObjectMapper JSON = new ObjectMapper();

    private CrossingJson() {}

    static ObjectNode of(Crossing crossing) {
        ObjectNode node = JSON.createObjectNode();
        node.put("from", crossing.from())
                .put("to", crossing.to())
                .put("onto", CrossingWriter.onto(crossing.onto()))
                .put("source-moment", YamlReading.word(crossing.sourceMoment()))
                .put("slice-rows", crossing.sliceRows())
                .put("compress", YamlReading.word(crossing.compress()))
                .put("out-of-range", YamlReading.word(crossing.outOfRange()))
                .put("make-missing", crossing.makeMissing())
                .put("proof", YamlReading.word(crossing.proof()))
                .put("backup", crossing.backup())
                .put("rejects-allowed", crossing.rejectsAllowed())
                .put("follow-deletes", crossing.followDeletes());
        if (crossing.sliceBytes() != Cut.DEFAULT_BYTES) {
            // not there in older ones
            node.put("slice-bytes", crossing.sliceBytes());
        }
        if (crossing.keepReplaced()) {
            // likewise not there in older ones
            node.put("keep-replaced", true);
        }
        if (!crossing.rules().isEmpty()) {
            // not there in runs that were begun before there were rules
            ArrayNode rules = node.putArray("rules");
            crossing.rules().forEach(r -> rules.add(r.shown()));
        }
        statements(node.putArray("before"), crossing.before());
        statements(node.putArray("after"), crossing.after());
        ObjectNode tables = node.putObject("tables");
        for (CrossingTable table : crossing.tables()) {
            ObjectNode one = tables.putObject(table.name().text());
            one.put("to", table.to().text())
                    .put("where", table.where())
                    .put("cut-by", table.cutBy())
                    .put("grows-by", table.growsBy());
            ArrayNode columns = one.putArray("columns");
            table.columns().forEach(c -> columns.add(c.name() + " to " + c.to() + " as " + c.type()));
            ArrayNode skip = one.putArray("skip");
            table.skip().forEach(skip::add);
            // not there in runs that were begun before tables could say otherwise than the crossing
            OwnChoices own = table.own();
            own.onto().ifPresent(o -> one.put("onto", CrossingWriter.onto(o)));
            own.proof().ifPresent(p -> one.put("proof", YamlReading.word(p)));
            own.rejectsAllowed().ifPresent(r -> one.put("rejects-allowed", r));
        }
        return node;
    }

    private static void statements(ArrayNode array, List<TargetStatement> all) {
        all.forEach(s -> array.addObject().put("run", s.sql()).put("undo", s.undo()));
    }

    /** Keeps a crossing with its run, as a file that can be read again. */
    static void keep(Crossing crossing, RunFolder folder) {
        try {
            Files.createDirectories(folder.path());
            NewFile.whole(
                    folder.crossing(),
                    CrossingWriter.write(crossing, CrossingWriter.Remarks.none())
                            .getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new PlaceException(folder.path().toString(), "can't be written: " + e.getMessage(), e);
        }
    }

    /** The keys in which a crossing differs from the one that a run was begun with. */
    static List<String> differences(Crossing crossing, RunFolder folder) {
        List<String> found = new ArrayList<>();
        compare("", of(Crossing.read(folder.crossing())), of(crossing), found);
        return found;
    }

    private static void compare(String path, JsonNode before, JsonNode now, List<String> found) {
        if (before.isObject() && now.isObject()) {
            Set<String> names = new LinkedHashSet<>();
            before.fieldNames().forEachRemaining(names::add);
            now.fieldNames().forEachRemaining(names::add);
            for (String name : names) {
                compare(path.isEmpty() ? name : path + "." + name, before.path(name), now.path(name), found);
            }
        } else if (!before.equals(now) && !(before.isNumber() && now.isNumber() && before.asLong() == now.asLong())) {
            found.add(path);
        }
    }
}
