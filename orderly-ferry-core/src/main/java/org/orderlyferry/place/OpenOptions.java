package org.orderlyferry.place;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.Proposing;
import org.orderlyferry.format.csv.CsvDialect;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.Rejects;

/** How to open places. Immutable. */
public final class OpenOptions {

    /** Nothing told: secrets from the environment and from files only, and the first record that can't be taken ends the work. */
    public static final OpenOptions DEFAULT = builder().build();

    private final Secrets secrets;
    private final Optional<String> format;
    private final FileSettings files;
    private final Optional<Path> definitions;
    private final Rejects rejects;
    private final OutOfRange outOfRange;
    private final boolean makeMissing;
    private final boolean trustDefinitions;
    private final Proposing proposing;
    private final Optional<String> moment;

    private OpenOptions(Builder from) {
        this.secrets = from.secrets;
        this.format = from.format;
        this.files = from.files;
        this.definitions = from.definitions;
        this.rejects = from.rejects;
        this.outOfRange = from.outOfRange;
        this.makeMissing = from.makeMissing;
        this.trustDefinitions = from.trustDefinitions;
        this.proposing = from.proposing;
        this.moment = from.moment;
    }

    /** Options that are yet to be told; what isn't is as in {@link #DEFAULT}. */
    public static Builder builder() {
        return new Builder();
    }

    /** Where passwords come from. */
    public Secrets secrets() {
        return secrets;
    }

    /** The format of a file, where neither its bytes nor its name are to tell. */
    public Optional<String> format() {
        return format;
    }

    /** What is told about the form of a file, where no definitions say so. */
    public FileSettings files() {
        return files;
    }

    /** A description to read a file by: CSVW, a JSON Schema or an XML Schema. */
    public Optional<Path> definitions() {
        return definitions;
    }

    /** Hears of records of files that can't be taken. */
    public Rejects rejects() {
        return rejects;
    }

    /** What is done with values that no other system could hold. */
    public OutOfRange outOfRange() {
        return outOfRange;
    }

    /** Whether a target's database, or its schemas, are made where they aren't there. */
    public boolean makeMissing() {
        return makeMissing;
    }

    /**
     * Whether texts of definitions that can't be read, such as a check in the target's own SQL, are sent to a target as they are;
     * only where a person says that whoever wrote them may run anything there.
     */
    public boolean trustDefinitions() {
        return trustDefinitions;
    }

    /** What a person has decided about definitions of files that have none. */
    public Proposing proposing() {
        return proposing;
    }

    /** Which state a place is to show, as {@link Place#moment()} of another process has given it; empty for the one that is there. */
    public Optional<String> moment() {
        return moment;
    }

    /**
     * To be called for a place that is no file.
     *
     * @param what it is, as {@code a database}
     * @throws UsageException if something is told about a file, which would be passed over there
     */
    public void mustBeOfNoFile(PlaceAddress address, String what) {
        List<String> told = new ArrayList<>(new TreeSet<>(files.values().keySet()));
        format.ifPresent(f -> told.add("format"));
        definitions.ifPresent(d -> told.add("definitions"));
        told.addAll(proposing.told());
        if (!told.isEmpty()) {
            throw new UsageException("what is told about a file (" + String.join(", ", told) + ") is of no use for "
                    + address + ", which is " + what);
        }
    }

    /** Options while they are being told. Not safe for use by several threads. */
    public static final class Builder {

        private Secrets secrets = Secrets.unattended();
        private Optional<String> format = Optional.empty();
        private FileSettings files = FileSettings.NONE;
        private Optional<Path> definitions = Optional.empty();
        private Rejects rejects = Rejects.STOP;
        private OutOfRange outOfRange = OutOfRange.REFUSE;
        private boolean makeMissing;
        private boolean trustDefinitions;
        private Proposing proposing = Proposing.DEFAULT;
        private Optional<String> moment = Optional.empty();

        private Builder() {}

        /** See {@link OpenOptions#secrets()}. */
        public Builder secrets(Secrets value) {
            secrets = value;
            return this;
        }

        /** See {@link OpenOptions#format()}. */
        public Builder format(String nameOrEnding) {
            format = Optional.of(nameOrEnding);
            return this;
        }

        /** See {@link OpenOptions#files()}. */
        public Builder files(FileSettings value) {
            files = value;
            return this;
        }

        /** A delimited file in this dialect. */
        public Builder dialect(CsvDialect value) {
            return files(value.settings());
        }

        /** See {@link OpenOptions#definitions()}. */
        public Builder definitions(Path file) {
            definitions = Optional.of(file);
            return this;
        }

        /** See {@link OpenOptions#rejects()}. */
        public Builder rejects(Rejects value) {
            rejects = value;
            return this;
        }

        /** See {@link OpenOptions#outOfRange()}. */
        public Builder outOfRange(OutOfRange value) {
            outOfRange = value;
            return this;
        }

        /** See {@link OpenOptions#makeMissing()}. */
        public Builder makeMissing(boolean value) {
            makeMissing = value;
            return this;
        }

        /** See {@link OpenOptions#trustDefinitions()}. */
        public Builder trustDefinitions(boolean value) {
            trustDefinitions = value;
            return this;
        }

        /** See {@link OpenOptions#proposing()}. */
        public Builder proposing(Proposing value) {
            proposing = value;
            return this;
        }

        /** See {@link OpenOptions#moment()}. */
        public Builder moment(Optional<String> value) {
            moment = value;
            return this;
        }

        /** The options as told. */
        public OpenOptions build() {
            return new OpenOptions(this);
        }
    }
}
