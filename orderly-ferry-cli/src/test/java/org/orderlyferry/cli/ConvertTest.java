package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.Databases;

/** Files of all kinds of dialects, definitions that are proposed, and tables that change on their way. */
class ConvertTest {

    @TempDir
    Path folder;

    private Path file(String name, String text) throws Exception {
        return Files.writeString(folder.resolve(name), text);
    }

    private static Ferry done(Object... arguments) {
        Ferry ferry = Ferry.run(arguments);
        assertThat(ferry.code()).as(ferry.out() + ferry.err()).isZero();
        return ferry;
    }

    private String converted(Path from, String ending, Object... more) throws Exception {
        Path to = folder.resolve("to." + ending);
        Object[] arguments = new Object[4 + more.length];
        arguments[0] = "convert";
        arguments[1] = from;
        arguments[2] = to;
        arguments[3] = "--overwrite";
        System.arraycopy(more, 0, arguments, 4, more.length);
        done(arguments);
        return Files.readString(to);
    }

    @Test
    void aDialectOfAnyKindIsReadAsItIsTold() throws Exception {
        Path from = folder.resolve("strange.txt");
        Files.write(
                from,
                ("Quillmoor export\r\n# a comment\r\nid~~name~~day~~height~~dry\r\n1~~'Wei\u00dfe ~~ Heide'~~9.4.2031~~1,5~~ja\r\n"
                                + "# another\r\n2~~'it\\'s'~~31.12.2030~~?~~n\r\nend of file: 2\r\n")
                        .getBytes(Charset.forName("windows-1252")));
        String json = converted(
                from,
                "jsonl",
                "--from-setting",
                "encoding=windows-1252",
                "--from-setting",
                "delimiter=~~",
                "--from-setting",
                "quoteChar='",
                "--from-setting",
                "doubleQuote=false",
                "--from-setting",
                "skipRows=1",
                "--from-setting",
                "skipLastRows=1",
                "--from-setting",
                "commentPrefix=#",
                "--from-setting",
                "null=?|",
                "--from-setting",
                "boolean=ja,j|nein,n",
                "--from-setting",
                "decimalChar=,");
        assertThat(json.lines())
                .containsExactly(
                        "{\"id\":1,\"name\":\"Weiße ~~ Heide\",\"day\":\"2031-04-09\",\"height\":1.5,\"dry\":true}",
                        "{\"id\":2,\"name\":\"it's\",\"day\":\"2030-12-31\",\"height\":null,\"dry\":false}");
    }

    @Test
    void whatIsWrittenInADialectIsReadBackByItsDescription() throws Exception {
        Path from = file(
                "label.json",
                "[{\"id\":1,\"name\":\"a;b\",\"day\":\"2031-04-09\",\"height\":1234.5,\"dry\":true},"
                        + "{\"id\":2,\"name\":\"\",\"day\":null,\"height\":null,\"dry\":false}]");
        Path csv = folder.resolve("label.csv");
        done(
                "convert",
                from,
                csv,
                "--to-setting",
                "delimiter=;",
                "--to-setting",
                "decimalChar=,",
                "--to-setting",
                "dateFormat=dd.MM.yyyy",
                "--to-setting",
                "boolean=ja|nein",
                "--to-setting",
                "null=-");
        assertThat(Files.readString(csv))
                .isEqualTo("id;name;day;height;dry\r\n1;\"a;b\";09.04.2031;1234,5;ja\r\n2;\"\";-;-;nein\r\n");
        assertThat(converted(csv, "json").replaceAll("\\s", ""))
                .isEqualTo(Files.readString(from).replaceAll("\\s", ""));
        Path fixed = folder.resolve("label.txt");
        Path codes = file("codes.csv", "code,name\n007,moss\n12,fern\n");
        done("convert", codes, fixed, "--to-setting", "widths=4,6");
        assertThat(Files.readString(fixed)).isEqualTo("codename  \r\n007 moss  \r\n12  fern  \r\n");
        assertThat(converted(fixed, "csv", "--from-setting", "widths=4,6"))
                .isEqualTo("code,name\r\n007,moss\r\n12,fern\r\n");
        Path narrow = folder.resolve("narrow.csv");
        Path names = file("names.csv", "id,name\n1,fern\n2,Žluť\n");
        Ferry lost =
                Ferry.run("convert", names, narrow, "--to-setting", "encoding=ISO-8859-1", "--to-setting", "trim=true");
        assertThat(lost.code()).isEqualTo(3);
        assertThat(lost.err()).contains("names.csv, line 3, table names, column name: 'Žluť'", "has no Ž (U+017D)");
        assertThat(narrow).doesNotExist();
        for (String encoding : new String[] {"UTF-16", "UTF-16LE", "ISO-8859-15"}) {
            Path other = folder.resolve(encoding + ".csv");
            done("convert", codes, other, "--to-setting", "encoding=" + encoding);
            assertThat(converted(other, "csv")).isEqualTo("code,name\r\n007,moss\r\n12,fern\r\n");
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiterString = "~~",
            value = {
                "1|2|30000000000 ~~ BIGINT",
                "1|2|3 ~~ INTEGER",
                "1.5|20.25 ~~ DECIMAL(4,2)",
                "1e5|2 ~~ DOUBLE PRECISION",
                "007|12 ~~ CHARACTER VARYING(3)",
                "+49 555|1 ~~ CHARACTER VARYING(7)",
                "true|FALSE ~~ BOOLEAN",
                "2031-04-09|2030-01-01 ~~ DATE",
                "13/04/2031|01/02/2031 ~~ DATE",
                "04/13/2031|01/02/2031 ~~ DATE",
                "04/05/2031|01/02/2031 ~~ CHARACTER VARYING(10)",
                "9.4.2031|31.12.2030 ~~ DATE",
                "13/04/2031|04/13/2031 ~~ CHARACTER VARYING(10)",
                "2031-04-09 07:30:00|2031-04-09T07:30:00.25 ~~ TIMESTAMP(2)",
                "2031-04-09T07:30:00Z|2031-04-09T07:30:00+02:00 ~~ TIMESTAMP(0) WITH TIME ZONE",
                "07:30:00|23:59:59.5 ~~ TIME(1)",
                "6d0f5b1e-3c1a-4f0e-9a64-0d5a2f1b7c3d|6D0F5B1E-3C1A-4F0E-9A64-0D5A2F1B7C3E ~~ UUID",
                "1|moss ~~ CHARACTER VARYING(4)",
                "12345678901234567890123456789012345678901 ~~ DECIMAL"
            })
    void typesAreProposedFromAllValues(String values, String type) throws Exception {
        Path csv = file("field.csv", "value\n" + values.replace('|', '\n') + "\n");
        assertThat(new com.fasterxml.jackson.databind.ObjectMapper()
                        .readTree(done("look", csv, "--json", "--tight-types").out())
                        .get("columns")
                        .get(0)
                        .get("type")
                        .asText())
                .isEqualTo(type);
    }

    @Test
    void proposedDefinitionsCanBeChangedAndGivenBack() throws Exception {
        Path csv = file("label.csv", "id,price,phone\n1,12,5550100\n2,13,5550101\n");
        Path definitions = folder.resolve("mine.json");
        assertThat(done("look", csv, "--write-definitions", definitions).out())
                .contains("stays text, since telephone numbers are no numbers", "id (taken as primary key)");
        Files.writeString(
                definitions,
                Files.readString(definitions)
                        .replace("\"https://orderly-ferry.example/ns#type\" : \"INTEGER\"", "\"x:y\" : 0")
                        .replace("\"datatype\" : \"int\"", "\"datatype\" : \"decimal\""));
        Path target = folder.resolve("mine.sqlite");
        done("load", csv, target, "--definitions", definitions, "--as", "price_tag");
        assertThat(done("look", target, "price_tag").out()).contains("price_tag  2 rows", "DECIMAL");
    }

    @Test
    void aDescriptionOfSomebodyElseIsFollowed() throws Exception {
        Path csv = file("theirs.csv", "ignored\nid|gathered|weight|wet\n1|9.4.2031|1.234,5|Y\n2|-|n/a|N\n");
        file(
                "theirs.csv-metadata.json",
                "{\"@context\":\"http://www.w3.org/ns/csvw\",\"url\":\"theirs.csv\",\"dialect\":{\"delimiter\":\"|\",\"skipRows\":1},"
                        + "\"tableSchema\":{\"columns\":[{\"titles\":\"id\",\"datatype\":\"integer\"},"
                        + "{\"titles\":\"gathered\",\"null\":\"-\",\"datatype\":{\"base\":\"date\",\"format\":\"d.M.yyyy\"}},"
                        + "{\"titles\":\"weight\",\"null\":[\"n/a\",\"\"],\"datatype\":{\"base\":\"decimal\",\"format\":{\"decimalChar\":\",\",\"groupChar\":\".\"}}},"
                        + "{\"titles\":\"wet\",\"datatype\":{\"base\":\"boolean\",\"format\":\"Y|N\"}}],\"primaryKey\":\"id\"}}");
        assertThat(converted(csv, "csv"))
                .isEqualTo("id,gathered,weight,wet\r\n1,2031-04-09,1234.5,true\r\n2,,,false\r\n");
    }

    @Test
    void severalFilesReferToEachOther() throws Exception {
        Path several = Files.createDirectory(folder.resolve("several"));
        Files.writeString(several.resolve("taxon.csv"), "id,name\n1,moss\n2,fern\n");
        Files.writeString(several.resolve("sheet.jsonl"), "{\"id\":1,\"taxon_id\":2}\n{\"id\":2,\"taxon_id\":2}\n");
        Files.writeString(several.resolve("drawer.csv"), "id,taxon\n1,1\n2,9\n");
        Path target = folder.resolve("several.sqlite");
        done("load", several, target);
        assertThat(done("look", target).out()).contains("3 tables");
        assertThat(done("look", target, "sheet").out()).contains("(taxon_id) → taxon (id)");
        assertThat(done("look", target, "drawer").out()).doesNotContain("→");
        assertThat(done("convert", several, folder.resolve("several.xlsx")).out())
                .contains("3 tables");
        assertThat(done("look", folder.resolve("several.xlsx"), "sheet").out()).contains("2 records");
    }

    @Test
    void tablesChangeOnTheirWay() throws Exception {
        Path csv = file("label.csv", "id,_rev,name,height\n1,x,moss,1\n2,y,fern,2\n3,z,,3\n");
        assertThat(converted(csv, "csv", "--skip", "_*", "--rename", "name=taxon", "--type", "height=DECIMAL(5,2)"))
                .isEqualTo("id,taxon,height\r\n1,moss,1.00\r\n2,fern,2.00\r\n3,,3.00\r\n");
        assertThat(converted(csv, "csv", "--columns", "height,name", "--where", "height >= 2 AND name IS NOT NULL"))
                .isEqualTo("height,name\r\n2,fern\r\n");
        assertThat(converted(
                        csv,
                        "csv",
                        "--columns",
                        "name",
                        "--where",
                        "NOT (name LIKE 'm%') OR id IN (1, 3)",
                        "--number-by",
                        "no"))
                .isEqualTo("no,name\r\n1,moss\r\n2,fern\r\n3,\r\n");
        assertThat(converted(file("plain.csv", "field_code,wet weight\n1,2\n"), "csv", "--readable-headings"))
                .isEqualTo("Field code,Wet weight\r\n1,2\r\n");
        Ferry wrong = Ferry.run("convert", csv, folder.resolve("x.csv"), "--where", "heigth > 2");
        assertThat(wrong.code()).isEqualTo(2);
        assertThat(wrong.err()).contains("asks for a column heigth, and table label has id, _rev, name, height");
        assertThat(Ferry.run("convert", csv, folder.resolve("x.csv"), "--skip", "heigth")
                        .err())
                .contains("has a column heigth");
        assertThat(Ferry.run("convert", csv, folder.resolve("x.csv"), "--type", "name=INTEGER")
                        .err())
                .contains("column name: 'moss' isn't an INTEGER");
    }

    @Test
    void whatADocumentDatabaseWritesIsRead() throws Exception {
        Path lines = file(
                "sheet.jsonl",
                "{\"_id\":{\"$oid\":\"65f0c0ffee65f0c0ffee65f0\"},\"big\":{\"$numberLong\":\"9007199254740993\"},"
                        + "\"price\":{\"$numberDecimal\":\"12.50\"},\"at\":{\"$date\":\"2031-04-09T07:30:00.25Z\"},"
                        + "\"scan\":{\"$binary\":{\"base64\":\"AP8=\",\"subType\":\"00\"}},\"tags\":[1,\"two\"]}\n"
                        + "{\"_id\":{\"$oid\":\"65f0c0ffee65f0c0ffee65f1\"},\"at\":{\"$date\":{\"$numberLong\":\"0\"}}}\n");
        assertThat(converted(lines, "csv"))
                .isEqualTo("_id,big,price,at,scan,tags\r\n"
                        + "65f0c0ffee65f0c0ffee65f0,9007199254740993,12.50,2031-04-09T07:30:00.25Z,AP8=,\"[1,\"\"two\"\"]\"\r\n"
                        + "65f0c0ffee65f0c0ffee65f1,,,1970-01-01T00:00:00Z,,\r\n");
        Path back = folder.resolve("back.jsonl");
        done("convert", folder.resolve("to.csv"), back, "--to-setting", "wrappers=true");
        assertThat(Files.readString(back)).contains("{\"$numberLong\":\"9007199254740993\"}", "{\"$date\":\"2031");
        Path keyed = file("keyed.json", "{\"a\":{\"n\":1},\"b\":{\"n\":2}}");
        assertThat(converted(keyed, "csv")).isEqualTo("key,n\r\na,1\r\nb,2\r\n");
    }

    @Test
    void nestedRecordsAreTakenApartIntoTablesWithAKeyBack() throws Exception {
        Path json = file(
                "sheet.json",
                "[{\"id\":\"a\",\"place\":{\"town\":\"Quill\",\"at\":{\"x\":1.50}},\"finds\":[{\"n\":1},{\"n\":2,\"tags\":[7]}]},"
                        + "{\"id\":\"b\",\"finds\":[],\"notes\":[\"wet\",\"dry\"]}]");
        Path target = folder.resolve("apart.sqlite");
        done("load", json, target, "--setting", "apart=true");
        String url = "jdbc:sqlite:" + target;
        assertThat(Databases.rows(url, "SELECT id, \"place.town\", \"place.at.x\" FROM sheet ORDER BY 1"))
                .containsExactly("a Quill 1.5", "b null null");
        assertThat(Databases.rows(url, "SELECT parent, place, n, tags FROM sheet_finds ORDER BY 2"))
                .containsExactly("a 1 1 null", "a 2 2 [7]");
        assertThat(Databases.rows(url, "SELECT parent, place, value FROM sheet_notes ORDER BY 2"))
                .containsExactly("b 1 wet", "b 2 dry");
        assertThat(done("look", target, "sheet_finds").out()).contains("(parent) → sheet (id)");
    }

    @Test
    void aSpreadsheetKeepsWhatItWouldDamageAsText() throws Exception {
        Path csv = file(
                "label.csv",
                "id,code,big,day,formula\n1,007,12345678901234567890,2031-04-09,=1+2\n2,010,1,1850-01-01,x\n");
        Path xlsx = folder.resolve("label.xlsx");
        assertThat(done("convert", csv, xlsx).out())
                .contains("label.big: 1 numbers are written as texts, since a spreadsheet keeps 15 digits");
        Files.delete(folder.resolve("label.xlsx-metadata.json"));
        assertThat(done("look", xlsx).out()).contains("007", "12345678901234567890", "=1+2", "1850-01-01", "DATE");
        Path small = folder.resolve("small.xlsx");
        done("convert", csv, small, "--to-setting", "sheetRows=2");
        assertThat(done("look", small).out()).contains("2 records");
        assertThat(converted(small, "csv")).contains("2,010,1,1850-01-01,x");
    }

    @Test
    void aWholeSetIsOneFileAndASetThatWasEditedIsToldOf() throws Exception {
        Path old = folder.resolve("old.mv.db");
        new Herbarium().specimens(50).readings(50).create(old);
        for (String bundle : new String[] {"set.zip", "set.tar.gz", "set.tar.zst"}) {
            Path file = folder.resolve(bundle);
            done("export", old, file, "--format", "jsonl");
            done("reconcile", old, file);
            // others than who made it may read it, as any new file
            assertThat(Files.getPosixFilePermissions(file))
                    .isEqualTo(Files.getPosixFilePermissions(Files.writeString(folder.resolve("new.txt"), "")));
            assertThat(folder.resolve("." + bundle + ".unpacked")).doesNotExist();
        }
        Path set = folder.resolve("set");
        done("export", old, set, "specimen", "loan", "collector");
        Path data = set.resolve("data/collector.csv");
        Files.writeString(
                data,
                Files.readString(data, StandardCharsets.UTF_8)
                        .replaceAll("(\\d{4})-(\\d\\d)-(\\d\\d)(?=\\r\\n)", "$3/$2/$1")
                        .replaceAll(",0+(\\d+),", ",$1,")
                        .replace(',', ';'));
        Ferry look = Ferry.run("look", set);
        assertThat(look.code()).isEqualTo(1);
        assertThat(look.out())
                .contains("Changed since the set was made")
                .contains("collector: values are separated by ';' instead of ','")
                .contains("collector.field_code: differs, and seems to have lost zeros in front")
                .contains("values are no DATE any more, the first '", "dates were written in another way");
        Ferry refused = Ferry.run("load", set, folder.resolve("edited.sqlite"));
        assertThat(refused.code()).isEqualTo(3);
        assertThat(refused.err()).contains("collector: values are separated by ';'", "tell the load to accept changes");
        done(
                "load",
                set,
                folder.resolve("edited.sqlite"),
                "collector",
                "--accept-changes",
                "--delimiter",
                ";",
                "--setting",
                "dateFormat=dd/MM/yyyy");
    }

    @Test
    void aTableWithoutAnyColumnIsRefused() throws Exception {
        Path csv = Files.writeString(folder.resolve("bare.csv"), "id,name\n1,moss\n");
        Path to = folder.resolve("bare.jsonl");
        Ferry ferry = Ferry.run("convert", csv, to, "--skip", "bare.*");
        assertThat(ferry.code()).isEqualTo(2);
        assertThat(ferry.err()).contains("no column of table bare would be left");
        assertThat(to).doesNotExist();
        Files.writeString(folder.resolve("bare.csv-metadata.json"), "{\"tableSchema\": {\"columns\": []}}");
        Ferry described = Ferry.run("convert", csv, to);
        assertThat(described.code()).isEqualTo(2);
        assertThat(described.err())
                .contains(
                        "the definitions " + folder.resolve("bare.csv-metadata.json") + " can't be used:",
                        "no columns");
    }

    @Test
    void aConditionNeedsTheColumnsOnlyOfTablesThatAreWanted() throws Exception {
        Path url = folder.resolve("two.sqlite");
        Databases.run(
                "jdbc:sqlite:" + url,
                "CREATE TABLE loan (id INTEGER PRIMARY KEY)",
                "CREATE TABLE label (number INTEGER PRIMARY KEY)",
                "INSERT INTO loan VALUES (1), (2), (3)");
        assertThat(done("convert", url, folder.resolve("set"), "loan", "--where", "id > 1")
                        .out())
                .contains("3 read = 2 written + 0 rejected + 1 left out by a condition");
        Ferry both = Ferry.run("convert", url, folder.resolve("other"), "--where", "id > 1");
        assertThat(both.code()).isEqualTo(2);
        assertThat(both.err()).contains("asks for a column id, and table label has number");
        assertThat(folder.resolve("other")).doesNotExist();
    }

    /** A file's writer that finds out by writing what it can't hold: with the value of the third record. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "to.csv | encoding=windows-1252 | moss 🌿 | which has no 🌿",
                "to.txt | widths=1,6 | longer than six | is longer than the 6 characters",
                "to.xml | version=1.0 | one | XML 1.0 has no U+0001",
                "to.sql | dialect=postgresql | zero | holds a NUL character"
            })
    void whatAFileCantHoldIsRejectedAndTheRestIsWritten(String name, String setting, String value, String why)
            throws Exception {
        // which no annotation can have as they are
        String text = value.equals("one") ? "\u0001" : value.equals("zero") ? "\0" : value;
        StringBuilder csv = new StringBuilder("n,name\r\n");
        for (int i = 1; i <= 6; i++) {
            csv.append(i).append(',').append(i % 3 == 0 ? text : "fern").append("\r\n");
        }
        Path from = file("from.csv", csv.toString());
        Path to = folder.resolve(name);
        Path rejects = folder.resolve("rejects.csv");
        Ferry stopped = Ferry.run("convert", from, to, "--to-setting", setting);
        assertThat(stopped.code()).as(stopped.err()).isEqualTo(3);
        assertThat(to).doesNotExist();
        Ferry ferry = Ferry.run("convert", from, to, "--to-setting", setting, "--rejects", rejects);
        assertThat(ferry.out()).as(ferry.err()).contains("6 read = 4 written + 2 rejected");
        assertThat(Files.readString(rejects)).contains(",4,name,", ",7,name,", why);
        assertThat(Files.readString(to, Charset.forName("windows-1252"))).contains("fern");
    }
}
