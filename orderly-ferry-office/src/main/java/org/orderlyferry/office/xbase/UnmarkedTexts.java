package org.orderlyferry.office.xbase;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableName;
import org.orderlyferry.record.text.Utf8;

/** Texts beyond ASCII that were read in an encoding which nobody has told, so that a person can say whether it is the right one. */
final class UnmarkedTexts {

    private final boolean isTold;
    private long utf8;
    private long others;

    UnmarkedTexts(Optional<Charset> told) {
        this.isTold = told.isPresent();
    }

    /** Hears of a text. */
    void add(byte[] bytes, int from, int length) {
        if (isTold) {
            return;
        }
        for (int i = from; i < from + length; i++) {
            if (bytes[i] < 0) {
                if (Utf8.firstInvalid(bytes, from, from + length) < 0) {
                    utf8++;
                } else {
                    others++;
                }
                return;
            }
        }
    }

    List<Finding> findings(TableName table) {
        List<String> taken = new ArrayList<>();
        add(taken, utf8, "UTF-8");
        add(taken, others, "windows-1252");
        return taken.isEmpty()
                ? List.of()
                : List.of(Finding.of(
                        FindingCode.ENCODING_UNMARKED,
                        table,
                        "the file doesn't say in which encoding its texts are: " + String.join(", and ", taken)
                                + "; the setting encoding says what they are in"));
    }

    private static void add(List<String> taken, long count, String encoding) {
        if (count > 0) {
            taken.add(count + " with more than ASCII " + (count == 1 ? "was" : "were") + " taken for " + encoding);
        }
    }
}
