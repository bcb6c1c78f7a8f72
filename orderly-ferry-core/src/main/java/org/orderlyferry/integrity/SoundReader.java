package org.orderlyferry.integrity;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.EachRecordReader;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.tally.Digest;

/** Gives the records of another reader but for those that break constraints, which are rejected. */
final class SoundReader extends EachRecordReader {

    private final List<Check> checks = new ArrayList<>();
    private final List<String> read;

    private record Check(Violations.Of broken, RecordHashes hashes) {}

    SoundReader(RecordReader reader, List<Violations.Of> broken, Rejects rejects) {
        super(reader, rejects);
        this.read = reader.table().columnNames();
        for (Violations.Of of : broken) {
            // whoever reads less wants to know something else of the records
            if (read.containsAll(of.constraint().of().names())) {
                checks.add(new Check(of, new RecordHashes(of.constraint().of(), read)));
            }
        }
    }

    @Override
    protected void look(RecordBatch batch, int row) {
        for (Check check : checks) {
            if (row == 0) {
                // of the whole batch at once
                check.hashes().of(batch);
            }
        }
        for (Check check : checks) {
            if (check.hashes().isWhole(row)) {
                Digest hash =
                        new Digest(check.hashes().high(row), check.hashes().low(row));
                Violations.Value value = check.broken().values().get(hash);
                if (value != null) {
                    throw broken(batch, row, check.broken().constraint(), value);
                }
            }
        }
    }

    private BadValueException broken(RecordBatch batch, int row, Constraint constraint, Violations.Value value) {
        List<String> columns = constraint.of().names();
        String values =
                columns.stream().map(c -> batch.text(row, read.indexOf(c))).collect(Collectors.joining(", "));
        return new BadValueException(batch.origin(row), String.join(", ", columns), values, reason(constraint, value));
    }

    private static String reason(Constraint constraint, Violations.Value value) {
        if (constraint instanceof Constraint.Reference reference) {
            return "refers to a record of " + reference.target() + " that isn't there"
                    + (reference.coming().isPresent() ? ", or was rejected" : "");
        }
        return value.records() > 1
                ? "is in " + value.records() + " records, and the key allows one"
                : "is in a record of the target already, and the key allows one";
    }
}
