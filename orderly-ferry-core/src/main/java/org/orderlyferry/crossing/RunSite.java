package org.orderlyferry.crossing;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Path;
import java.util.Optional;
import org.orderlyferry.exportset.SetTarget;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.delimited.DelimitedFormat;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.work.WorkSite;

/**
 * Both ends of a run's export or load, for other processes: the crossing as it is written in a file.
 *
 * @param load whether it is the load; else the export
 */
record RunSite(Crossing crossing, RunFolder folder, boolean load) implements WorkSite {

    private static final String KIND = "run";
    private static final ObjectMapper JSON = new ObjectMapper();

    @Override
    public String kind() {
        return KIND;
    }

    @Override
    public String text() {
        return JSON.createObjectNode()
                .put("crossing", CrossingWriter.write(crossing, CrossingWriter.Remarks.none()))
                .put("folder", WrittenPath.of(folder.path().toAbsolutePath()))
                .put("load", load)
                .toString();
    }

    @Override
    public Place source(Secrets secrets, Optional<String> moment) {
        return load ? Places.open(folder.set()) : new Ends(crossing, secrets).source(Rejects.STOP, moment);
    }

    @Override
    public TargetPlace target(Secrets secrets, String system) {
        return load
                ? new Ends(crossing, secrets).target()
                : new SetTarget(folder.set(), new DelimitedFormat(), FileSettings.NONE, crossing.compress(), system);
    }

    /** Reads them. */
    public static final class FromText implements WorkSite.Reader {

        @Override
        public String kind() {
            return KIND;
        }

        @Override
        public WorkSite read(String text) {
            try {
                JsonNode node = JSON.readTree(text);
                Path folder = WrittenPath.read(node.path("folder").asText());
                Crossing crossing = CrossingReader.parse(
                        folder.resolve("crossing.yaml"), node.path("crossing").asText());
                return new RunSite(
                        crossing, new RunFolder(folder), node.path("load").asBoolean());
            } catch (JsonProcessingException | IllegalArgumentException e) {
                throw new UsageException("this is no run's site: " + e.getMessage(), e);
            }
        }
    }
}
