package org.orderlyferry.databases.sql;

/** What a domain says of its values (ISO/IEC 9075-2, 4.13), as the rule of a column that has it. */
public final class DomainText {

    private DomainText() {}

    /**
     * The same of a column.
     *
     * @param rules SQL in which VALUE stands for the value
     * @param column its name; comes to stand there in double quotes
     */
    public static String ofColumn(String rules, String column) {
        StringBuilder text = new StringBuilder();
        int done = 0;
        for (SqlToken token : SqlToken.of(rules)) {
            if (token.is("VALUE")) {
                text.append(rules, done, token.start())
                        .append('"')
                        .append(column.replace("\"", "\"\""))
                        .append('"');
                done = token.end();
            }
        }
        return text.append(rules.substring(done)).toString();
    }
}
