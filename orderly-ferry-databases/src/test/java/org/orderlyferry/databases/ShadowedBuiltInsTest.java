package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.orderlyferry.testkit.servers.Databases.rows;
import static org.orderlyferry.testkit.servers.Databases.run;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;

/** In a PostgreSQL database somebody has made what would be run with the rights of who reads it: it isn't run. */
class ShadowedBuiltInsTest {

    private static final Path SOURCES = Path.of("src/main/java/org/orderlyferry/databases");
    private static final Pattern CALL = Pattern.compile("\\b([a-z_]+)\\(");

    @TempDir
    private Path folder;

    private String url;
    private String stranger;

    @BeforeEach
    void someoneElseMayMakeThings() throws Exception {
        url = TestSystem.POSTGRESQL.fresh(folder);
        stranger = "stranger_" + ProcessHandle.current().pid() + "_" + System.nanoTime();
        run(
                url,
                "create role " + stranger,
                "grant create on schema public to " + stranger,
                "create table bed (id int primary key, name varchar(20), marks text[])",
                "insert into bed values (1, 'rose', '{a,b}'), (2, 'iris', null)");
    }

    @AfterEach
    void theyGo() throws Exception {
        run(url, "drop owned by " + stranger + " cascade", "drop role " + stranger);
    }

    private void made(String... statements) throws Exception {
        List<String> all = new ArrayList<>(List.of("set role " + stranger));
        all.addAll(List.of(statements));
        run(url, all.toArray(String[]::new));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "create function max(varchar) returns text language sql as $$ select 'x' $$",
                "create function to_json(text[]) returns json language sql as $$ select '[]'::json $$",
                "create function to_jsonb(pg_catalog.pg_constraint) returns jsonb language sql as $$ select '{}'::jsonb $$",
                "create aggregate array_agg(text) (sfunc = array_append, stype = text[])",
            })
    void aFunctionOfTheNameOfOneOfTheSystemsOwnIsRefused(String statement) throws Exception {
        made(statement);
        String name = statement.replaceAll("^create \\w+ (\\w+).*", "$1");
        assertThatThrownBy(() -> Places.open(url))
                .isInstanceOf(PlaceException.class)
                .hasMessageContaining("the schema public")
                .hasMessageContaining("function " + name + "(")
                .hasMessageContaining("of " + stranger);
        assertThatThrownBy(() -> Places.openTarget(url)).hasMessageContaining(name);
        // where names aren't looked up in that schema, it is never found
        run(url, "create schema own");
        try (Place place = Places.open(url + "&currentSchema=own")) {
            assertThat(place.tables()).containsExactly(new TableName("public", "bed"));
        }
    }

    @Test
    void anOperatorIsRefusedLikewise() throws Exception {
        made(
                "create function ge(varchar, varchar) returns bool language sql as $$ select true $$",
                "create operator >= (leftarg = varchar, rightarg = varchar, function = ge)");
        assertThatThrownBy(() -> Places.open(url))
                .hasMessageContaining("operator >=(character varying,character varying) of " + stranger);
    }

    @Test
    void ownFunctionsAndThoseOfOtherNamesAreNone() throws Exception {
        made("create function round(varchar) returns text language sql as $$ select 'x' $$");
        run(url, "create function max(varchar) returns text language sql as $$ select 'x' $$");
        try (Place place = Places.open(url)) {
            assertThat(place.tables()).containsExactly(TableName.of("bed"));
        }
    }

    /** Where it is named last, as one may, any type, table and function of the same name would come before its own. */
    @Test
    void theSystemsOwnSchemaComesFirstWhateverTheSessionIsSetTo() throws Exception {
        made("create table pg_namespace (oid oid, nspname name)", "create domain regclass as text");
        try (Place place = Places.open(url + "&currentSchema=public,pg_catalog")) {
            assertThat(place.tables()).contains(TableName.of("bed"), TableName.of("pg_namespace"));
            assertThat(place.define(TableName.of("bed")).primaryKey()).isPresent();
        }
    }

    /** A cast is the type's owner's, and a value is asked for by its text. */
    @Test
    void aCastToTextOfATypeThatSomebodyMadeIsNotRun() throws Exception {
        made(
                "create type label as (a int, b text)",
                "create type mood as enum ('calm', 'wild')",
                "create function label_text(label) returns text language sql as $$ select 1 / 0 || '' $$",
                "create function mood_text(mood) returns text language sql as $$ select 1 / 0 || '' $$",
                "create function labels_text(label[]) returns text[] language sql as $$ select array[1 / 0 || ''] $$",
                "create cast (label as text) with function label_text(label)",
                "create cast (mood as text) with function mood_text(mood)",
                "create cast (label[] as text[]) with function labels_text(label[])",
                "create domain cut as box",
                "create table herb (id int primary key, l label, m mood, ls label[], ms mood[], bs box[], cs cut[])",
                "insert into herb values (1, row(1, 'x,y'), 'wild', array[row(1, 'x')::label, null], '{calm,wild}',"
                        + " '{(1,1),(0,0);(2,2),(1,1)}', '{(1,1),(0,0);(2,2),(1,1)}'), (2, row(null, null), null, null, null,"
                        + " null, null), (3, null, null, '{}', '{}', '{}', '{}')");
        Path set = folder.resolve("set");
        try (Place source = Places.open(url)) {
            Export.from(source)
                    .tables("herb")
                    .query("asked", "select * from herb order by id")
                    .to(set);
        }
        String expected = String.join(
                "\r\n",
                "id,l,m,ls,ms,bs,cs",
                "1,\"(1,\"\"x,y\"\")\",wild,\"[\"\"(1,x)\"\",null]\",\"[\"\"calm\"\",\"\"wild\"\"]\","
                        + "\"[\"\"(1,1),(0,0)\"\",\"\"(2,2),(1,1)\"\"]\",\"[\"\"(1,1),(0,0)\"\",\"\"(2,2),(1,1)\"\"]\"",
                "2,\"(,)\",,,,,",
                "3,,,[],[],[],[]",
                "");
        assertThat(set.resolve("data/herb.csv")).hasContent(expected);
        assertThat(set.resolve("data/asked.csv")).hasContent(expected);
    }

    /** A merge holds what is there against what comes, by texts too. */
    @Test
    void aMergeRunsNoCastEither() throws Exception {
        made(
                "create type mood as enum ('calm', 'wild')",
                "create function mood_text(mood) returns text language sql as $$ select 1 / 0 || '' $$",
                "create cast (mood as text) with function mood_text(mood)",
                "create table herb (id int primary key, m mood)",
                "insert into herb values (1, 'wild'), (2, 'calm')");
        Path set = folder.resolve("set");
        try (Place source = Places.open(url)) {
            Export.from(source).tables("herb").to(set);
        }
        run(url, "update herb set m = 'calm'");
        try (Place source = Places.open(set);
                TargetPlace target = Places.openTarget(url)) {
            Load.from(source).mode(LoadMode.MERGE).into(target);
        }
        assertThat(rows(url, "select id, m from herb order by id")).containsExactly("1 wild", "2 calm");
    }

    /** What our statements call is looked for: a function that isn't listed would be let through. */
    @Test
    void allFunctionsThatAreCalledAreLookedFor() throws Exception {
        TreeSet<String> called = new TreeSet<>();
        for (String room : List.of("postgresql", "dialect", "loading", "place", "sql")) {
            try (Stream<Path> files = Files.list(SOURCES.resolve(room))) {
                for (Path file : files.filter(f -> f.toString().endsWith(".java"))
                        .filter(f -> !f.endsWith("ShadowedBuiltIns.java"))
                        .toList()) {
                    Files.readAllLines(file).forEach(line -> callsIn(line, called));
                }
            }
        }
        assertThat(called).contains("pg_get_expr", "to_json", "max", "count");
        String names = String.join("', '", called);
        List<String> own = rows(
                url,
                "select distinct p.proname from pg_proc p where p.pronamespace = 'pg_catalog'::regnamespace and"
                        + " p.proname in ('" + names + "') and not exists (select from pg_type t where t.typname ="
                        + " p.proname and t.typnamespace = p.pronamespace) order by 1");
        List<String> looked = new ArrayList<>();
        namesIn(Files.readString(SOURCES.resolve("postgresql/ShadowedBuiltIns.java")), looked);
        assertThat(looked).containsAll(own);
        assertThat(own).hasSizeGreaterThan(30);
    }

    private static void namesIn(String source, List<String> looked) {
        Matcher name = Pattern.compile("\"([a-z_]+)\"").matcher(source);
        while (name.find()) {
            looked.add(name.group(1));
        }
    }

    private static void callsIn(String line, TreeSet<String> called) {
        Matcher text = Pattern.compile("\"((?:[^\"\\\\]|\\\\.)*)\"").matcher(line);
        while (text.find()) {
            Matcher call = CALL.matcher(text.group(1).toLowerCase(Locale.ROOT));
            while (call.find()) {
                called.add(call.group(1));
            }
        }
    }
}
