package org.orderlyferry.databases.place;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.JsonPaths;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.DocumentView;
import org.orderlyferry.place.ViewColumn;
import org.orderlyferry.place.ViewStatements;

/** Views that show what stands inside of documents, in a system's SQL. */
final class DocumentViewSql {

    private final Dialect dialect;
    private final JsonPaths paths;

    /** @throws UnsupportedOperationException if the system doesn't reach into JSON */
    DocumentViewSql(Dialect dialect) {
        this.dialect = dialect;
        this.paths = dialect.paths()
                .orElseThrow(() -> new UnsupportedOperationException(
                        "views of what stands in documents aren't made in " + dialect.system()));
    }

    ViewStatements statements(DocumentView view) {
        List<ViewColumn> shown = new ArrayList<>();
        List<ViewColumn> leftOut = new ArrayList<>();
        List<String> list =
                new ArrayList<>(view.plain().stream().map(dialect::quote).toList());
        for (ViewColumn column : view.columns()) {
            Optional<String> expression = expression(column);
            (expression.isPresent() ? shown : leftOut).add(column);
            expression.ifPresent(e -> list.add(e + " AS " + dialect.quote(column.name())));
        }
        String name = dialect.quote(view.name());
        return new ViewStatements(
                view.with(shown),
                leftOut,
                "CREATE VIEW " + name + " AS SELECT " + String.join(", ", list) + " FROM "
                        + dialect.quote(view.table()),
                "DROP VIEW " + name);
    }

    List<Long> count(Session session, DocumentView view) throws SQLException {
        StringBuilder query = new StringBuilder("SELECT ");
        for (ViewColumn column : view.columns()) {
            query.append(query.length() > 7 ? ", " : "")
                    .append("COUNT(")
                    .append(expression(column).orElse("NULL"))
                    .append(')');
        }
        query.append(" FROM ").append(dialect.quote(view.table()));
        try (Statement statement = session.connection().createStatement();
                ResultSet result = statement.executeQuery(query.toString())) {
            result.next();
            List<Long> counts = new ArrayList<>();
            for (int i = 1; i <= view.columns().size(); i++) {
                counts.add(result.getLong(i));
            }
            return counts;
        } finally {
            session.rollback();
        }
    }

    /** What stands in a wrapper where there is one, and else what stands there itself. */
    private Optional<String> expression(ViewColumn column) {
        String document = dialect.quote(column.document());
        if (column.type().name() == TypeName.JSON) {
            return paths.json(document, column.path());
        }
        List<Optional<String>> ways = new ArrayList<>();
        for (String wrapper : column.wrappers()) {
            List<String> inner = new ArrayList<>(column.path());
            inner.add(wrapper);
            ways.add(paths.scalar(document, inner, column.type(), true));
        }
        if (column.plain()) {
            boolean quoted = !column.type().name().isExactNumber()
                    && !column.type().name().isApproximateNumber()
                    && column.type().name() != TypeName.BOOLEAN;
            ways.add(paths.scalar(document, column.path(), column.type(), quoted));
        }
        if (ways.stream().anyMatch(Optional::isEmpty)) {
            return Optional.empty();
        }
        List<String> all = ways.stream().map(Optional::orElseThrow).toList();
        String value = all.size() == 1 ? all.get(0) : "COALESCE(" + String.join(", ", all) + ")";
        return Optional.of(paths.typed(value, column.type()));
    }
}
