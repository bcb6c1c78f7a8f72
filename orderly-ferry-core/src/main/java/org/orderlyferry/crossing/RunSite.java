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
import org.orderlyferry.ledger.RunFolder;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.work.WorkSite;

/**
 * Ends of a run, for other processes: the crossing as it is written in a file.
 *
 * @param part of the run
 */
record RunSite(Crossing crossing, RunFolder folder, Part part) implements WorkSite {

    /** What is done with which ends. */
    enum Part {
        /** The source is read, for its set or for its tallies. */
        SOURCE,
        /** The set is read, for the target or for its tallies. */
        SET,
        /** The target is read for its tallies. */
        TARGET,
        /** What the target had before is. */
        BACKUP
    }

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
                .put("part", part.name())
                .toString();
    }

    @Override
    public Place source(Secrets secrets, Optional<String> moment) {
        Ends ends = new Ends(crossing, secrets);
        return switch (part) {
            case SOURCE -> ends.source(Rejects.STOP, moment);
            case SET -> Places.open(folder.set());
            case TARGET -> ends.targetToRead(moment);
            case BACKUP -> Places.open(folder.backup());
        };
    }

    @Override
    public TargetPlace target(Secrets secrets, String system) {
        return switch (part) {
            case SOURCE ->
                new SetTarget(folder.set(), new DelimitedFormat(), FileSettings.NONE, crossing.compress(), system);
            case SET -> new Ends(crossing, secrets).target();
            case TARGET, BACKUP -> throw new UsageException("nothing is written of what is only read");
        };
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
                        crossing,
                        new RunFolder(folder),
                        Part.valueOf(node.path("part").asText()));
            } catch (JsonProcessingException | IllegalArgumentException e) {
                throw new UsageException("this is no run's site: " + e.getMessage(), e);
            }
        }
    }
}
