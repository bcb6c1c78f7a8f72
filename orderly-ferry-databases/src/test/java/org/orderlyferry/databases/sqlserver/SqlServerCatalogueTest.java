package org.orderlyferry.databases.sqlserver;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.orderlyferry.databases.dialect.Catalogue;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.testkit.standin.MadeUpCatalogue;

/** What the catalogue's views tell, in answers that are made up in their shape. */
class SqlServerCatalogueTest {

    private static MadeUpCatalogue told;

    @BeforeAll
    static void makeItUp() throws SQLException {
        told = new MadeUpCatalogue(
                "sqlserver",
                "told",
                "CREATE TABLE locality (id int PRIMARY KEY, code nvarchar(8) NOT NULL)",
                "CREATE TABLE specimen (id bigint IDENTITY(1,1) PRIMARY KEY, locality int, price decimal(19,4),"
                        + " path varbinary(max), anything nvarchar(max), secret nvarchar(40), stamp binary(8),"
                        + " kind nvarchar(20) DEFAULT 'x', doubled bigint, taken datetime2(7) DEFAULT CURRENT_TIMESTAMP,"
                        + " shape varbinary(max), sums nvarchar(max), note varchar(90), precise float,"
                        + " CONSTRAINT specimen_kind CHECK (kind <> ''), CONSTRAINT specimen_price CHECK (price > 0),"
                        + " CONSTRAINT specimen_locality FOREIGN KEY (locality) REFERENCES locality (id),"
                        + " CONSTRAINT specimen_code UNIQUE (note))",
                "CREATE INDEX by_kind ON specimen (kind, price DESC)",
                "CREATE INDEX by_columns ON specimen (price)",
                "CREATE INDEX idle ON specimen (locality)",
                "CREATE TABLE specimen_past (id bigint, price decimal(19,4))");
        String column = "UPDATE sys.columns SET ";
        told.execute(
                "INSERT INTO sys.types VALUES ('money', 60, 60, 0, ''), ('hierarchyid', 240, 128, 0, ''), ('geography', 240, 130,"
                        + " 0, ''), ('sql_variant', 98, 98, 0, ''), ('timestamp', 189, 189, 0, ''), ('kind_name', 231, 300, 1, ''),"
                        + " ('varchar', 167, 167, 0, '')",
                column + "system_type_id = 60, user_type_id = 60 WHERE name = 'price'",
                column + "system_type_id = 240, user_type_id = 128 WHERE name = 'path'",
                column + "system_type_id = 240, user_type_id = 130 WHERE name = 'shape'",
                column + "system_type_id = 98, user_type_id = 98 WHERE name = 'anything'",
                column + "system_type_id = 189, user_type_id = 189 WHERE name = 'stamp'",
                column + "user_type_id = 300, collation_name = 'Polish_CI_AS' WHERE name = 'kind'",
                column + "system_type_id = 167, user_type_id = 167, max_length = 90 WHERE name = 'note'",
                column + "is_masked = 1 WHERE name = 'secret'",
                column + "is_column_set = 1 WHERE name = 'sums'",
                column + "encryption_type = 2 WHERE name = 'anything'",
                "UPDATE sys.default_constraints SET definition = CASE WHEN definition LIKE '%x%' THEN '(N''dry; x'')' ELSE"
                        + " '(sysdatetime())' END",
                "INSERT INTO sys.computed_columns SELECT object_id, column_id, '([id]*(2))', 0 FROM sys.columns WHERE name ="
                        + " 'doubled'",
                "UPDATE sys.identity_columns SET last_value = 41, increment_value = 2",
                "UPDATE sys.indexes SET filter_definition = '([kind] IS NOT NULL)' WHERE name = 'by_kind'",
                "UPDATE sys.indexes SET type = 6, type_desc = 'NONCLUSTERED COLUMNSTORE' WHERE name = 'by_columns'",
                "UPDATE sys.indexes SET is_disabled = 1 WHERE name = 'idle'",
                "INSERT INTO sys.index_columns SELECT i.object_id, i.index_id, c.column_id, 0, 0, 1 FROM sys.indexes i JOIN"
                        + " sys.columns c ON c.object_id = i.object_id AND c.name = 'note' WHERE i.name = 'by_kind'",
                "UPDATE sys.check_constraints SET is_disabled = 1 WHERE name = 'specimen_price'",
                "UPDATE sys.foreign_keys SET is_not_trusted = 1",
                "UPDATE sys.tables SET temporal_type = 1 WHERE name = 'specimen_past'",
                "INSERT INTO sys.objects SELECT schema_id, 'recount', 'P', 'SQL_STORED_PROCEDURE', 0 FROM sys.schemas WHERE name ="
                        + " 'dbo'",
                "INSERT INTO sys.objects SELECT schema_id, 'numbers', 'SO', 'SEQUENCE_OBJECT', 0 FROM sys.schemas WHERE name ="
                        + " 'dbo'",
                "INSERT INTO sys.triggers SELECT object_id, 'specimen_log', 0 FROM sys.tables WHERE name = 'specimen'",
                "INSERT INTO sys.security_predicates SELECT 5, object_id, 0 FROM sys.tables WHERE name = 'locality'",
                "INSERT INTO sys.security_policies VALUES (5, 'own_localities', 1)",
                "INSERT INTO sys.database_permissions SELECT 1, object_id, 'SELECT', 7, 'G' FROM sys.tables WHERE name = 'locality'",
                "INSERT INTO sys.database_principals VALUES (7, 'keeper')",
                "UPDATE sys.extended_properties SET class = 2");
    }

    @AfterAll
    static void forgetIt() throws SQLException {
        told.close();
    }

    private static Catalogue catalogue() {
        return new SqlServerSql().catalogue(told.connection(), "dbo");
    }

    @Test
    void typesDefaultsCountersAndRulesAreRead() throws SQLException {
        TableDefinition specimen = catalogue().define(TableName.of("specimen"));
        assertThat(specimen.columns())
                .extracting(c -> c.name() + ": " + c.sourceType() + " as " + c.type())
                .containsExactly(
                        "id: bigint as BIGINT",
                        "locality: int as INTEGER",
                        "price: money as DECIMAL(19,4)",
                        "path: hierarchyid as BINARY LARGE OBJECT",
                        "anything: sql_variant as CHARACTER LARGE OBJECT",
                        "secret: nvarchar(40) as CHARACTER VARYING(40)",
                        "stamp: rowversion as BINARY(8)",
                        "kind: nvarchar(20) as CHARACTER VARYING(20)",
                        "doubled: bigint as BIGINT",
                        "taken: datetime2(7) as TIMESTAMP(7)",
                        "shape: geography as BINARY LARGE OBJECT",
                        "note: varchar(90) as CHARACTER VARYING(90)",
                        "precise: float as DOUBLE PRECISION");
        Map<String, Object> defaults = Map.of("kind", "Literal[text=dry; x]", "taken", "LOCALTIMESTAMP");
        defaults.forEach((name, value) -> assertThat(specimen.column(name)
                        .flatMap(ColumnDefinition::defaultValue)
                        .toString())
                .contains(value.toString()));
        assertThat(specimen.column("id").orElseThrow().identity().orElseThrow())
                .hasToString("Identity[always=true, start=1, increment=2, next=43]");
        assertThat(specimen.column("doubled").orElseThrow().generation().orElseThrow())
                .hasToString("GenerationRule[expression=SqlText[sql=([id]*(2)), system=SQL Server], stored=false]");
        assertThat(specimen.checks()).extracting(c -> c.name()).containsExactly("specimen_kind");
        assertThat(specimen.foreignKeys()).isEmpty();
        assertThat(specimen.uniqueKeys())
                .extracting(k -> k.name() + k.columns())
                .containsExactly("specimen_code[note]");
        assertThat(specimen.indexes())
                .extracting(i -> i.name() + i.parts() + i.predicate().map(p -> p.sql()))
                .containsExactly("by_kind[kind, price descending]Optional[([kind] IS NOT NULL)]");
    }

    @Test
    void oneTableAndAllTablesAreToldAlike() throws SQLException {
        Catalogue many = catalogue();
        for (int i = 0; i < 12; i++) {
            many.define(TableName.of("locality"));
        }
        assertThat(many.define(TableName.of("specimen"))).isEqualTo(catalogue().define(TableName.of("specimen")));
        assertThat(many.tables()).containsExactly(TableName.of("locality"), TableName.of("specimen"));
        assertThat(many.has(TableName.of("specimen_past"))).isFalse();
        assertThat(many.referrers(Set.of(TableName.of("locality")))).containsExactly(TableName.of("specimen"));
        assertThat(many.changesWhatComes(TableName.of("specimen"))).isTrue();
        assertThat(many.changesWhatComes(TableName.of("locality"))).isFalse();
        assertThat(many.otherNames()).containsEntry(TableName.of("recount"), "a sql stored procedure");
        assertThat(many.held().apply(TableName.of("SPECIMEN")))
                .isIn(TableName.of("SPECIMEN"), TableName.of("specimen"));
    }

    @Test
    void whatIsntCarriedIsTold() throws SQLException {
        assertThat(catalogue().leftBehind())
                .extracting(LeftBehind::kind, LeftBehind::name)
                .extracting(Object::toString)
                .containsExactlyInAnyOrder(
                        "(\"records\", \"locality\")",
                        "(\"records\", \"specimen.secret\")",
                        "(\"type\", \"specimen.anything\")",
                        "(\"type\", \"specimen.anything\")",
                        "(\"type\", \"specimen.path\")",
                        "(\"type\", \"specimen.shape\")",
                        "(\"history\", \"specimen_past\")",
                        "(\"sql stored procedure\", \"recount\")",
                        "(\"sequence\", \"numbers\")",
                        "(\"trigger\", \"specimen.specimen_log\")",
                        "(\"domain\", \"specimen.kind\")",
                        "(\"collation\", \"specimen.kind\")",
                        "(\"column\", \"specimen.sums\")",
                        "(\"index\", \"specimen.by_columns\")",
                        "(\"index\", \"specimen.idle\")",
                        "(\"index\", \"specimen.by_kind\")",
                        "(\"reference\", \"specimen.specimen_locality\")",
                        "(\"check\", \"specimen.specimen_price\")",
                        "(\"grant\", \"locality\")");
    }

    @Test
    void whatHasNoTextOfItsOwnIsAskedForAsOne() {
        SqlServerSql sql = new SqlServerSql();
        assertThat(selected(sql, "sql_variant")).contains("CAST([a]]b] AS nvarchar(max))");
        assertThat(selected(sql, "hierarchyid")).contains("CAST([a]]b] AS varbinary(max))");
        assertThat(selected(sql, "int")).isEmpty();
    }

    private static Optional<String> selected(SqlServerSql sql, String type) {
        return sql.selected(ColumnDefinition.named("a]b", SqlServerTypes.logical(type))
                .sourceType(type)
                .build());
    }

    /** An older driver's bulk copy would number the records anew. */
    @Test
    void batchesGoByBulkCopyOnlyWhereCountersKeepTheirValues() {
        SqlServerSql sql = new SqlServerSql();
        Set<String> older = Set.of("useBulkCopyForBatchInsert", "sendTimeAsDatetime");
        assertThat(sql.properties(older, true)).containsOnlyKeys("sendTimeAsDatetime");
        Set<String> known = Set.of(
                "useBulkCopyForBatchInsert",
                "bulkCopyForBatchInsertKeepIdentity",
                "bulkCopyForBatchInsertFireTriggers");
        assertThat(sql.properties(known, true)).containsOnlyKeys(known).doesNotContainValue("false");
        assertThat(sql.properties(known, false)).isEmpty();
    }
}
