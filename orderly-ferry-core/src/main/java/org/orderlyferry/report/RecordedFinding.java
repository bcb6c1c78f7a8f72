package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;

/**
 * What a person should know.
 *
 * @param code as {@link org.orderlyferry.model.FindingCode} shows it
 * @param severity error, warning or note
 * @param table where; {@code (all)} for no table in particular
 * @param column which column; empty where the whole table is meant
 * @param text one sentence
 */
@NullMarked
public record RecordedFinding(String code, FindingCode.Severity severity, String table, String column, String text) {
    public RecordedFinding {
        code = Bounded.text(code);
        severity = severity == null ? FindingCode.Severity.NOTE : severity;
        table = Bounded.text(table);
        column = Bounded.text(column);
        text = Bounded.text(text);
    }

    static RecordedFinding of(Finding finding) {
        return new RecordedFinding(
                finding.code().toString(),
                finding.code().severity(),
                finding.table().toString(),
                finding.column(),
                finding.text());
    }
}
