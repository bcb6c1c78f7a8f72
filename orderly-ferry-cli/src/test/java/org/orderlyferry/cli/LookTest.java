package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is said of a file that somebody else has made, before anything is moved. */
@Tag("everywhere")
class LookTest {

    @TempDir
    Path folder;

    private Path file(String name, String text) throws Exception {
        return Files.writeString(folder.resolve(name), text);
    }

    @Test
    void lookTellsWhatIsOddInAFile() throws Exception {
        Path odd = file(
                "odd.csv",
                "id,code,code,day,count\r\n1,007,x,04/05/2031,1\r\n2,008,y,05/06/2031,2\n3,009\r\n2,010,z,07/08/2031,many\r\n");
        String out = Ferry.run("look", odd).out();
        assertThat(out)
                .contains("3 records", "5 fields")
                .contains("the heading code stands there more than once")
                .contains("line 4", "the record has 2 values, but there are 5 columns")
                .contains("LF on line 3")
                .contains("'04/05/2031 in line 2'".replace("'", ""))
                .contains("can be read two ways")
                .contains("a number would lose the zeros of '007'")
                .contains("looks like a key, but a value comes twice, the second time in line 5");
    }

    @Test
    void aWrongEncodingIsOddAndTheValuesAreShownAllTheSame() throws Exception {
        ByteArrayOutputStream latin = new ByteArrayOutputStream();
        latin.write("a\nWei\u00dfe Heide\n".getBytes(Charset.forName("windows-1252")));
        Path wrong = folder.resolve("latin.csv");
        Files.write(wrong, latin.toByteArray());
        assertThat(Ferry.run("look", wrong).out())
                .contains("1 record,", "Weiße Heide")
                .contains("line 2: the byte 0xDF isn't valid UTF-8 here, after 'Wei'")
                .contains("it is shown as if in windows-1252");
        Ferry convert = Ferry.run("convert", wrong, folder.resolve("latin.jsonl"));
        assertThat(convert.err()).contains("line 2: the byte 0xDF isn't valid UTF-8");
        Path several = folder.resolve("several.txt");
        Files.write(several, "Wei\u00dfe||b\nm\u00e4h||\u0081\n".getBytes(StandardCharsets.ISO_8859_1));
        assertThat(Ferry.run("look", several, "--delimiter", "||").out())
                .contains("Weiße", "mäh", "line 1: the byte 0xDF", "it is shown as if in ISO-8859-1");
        assertThat(Ferry.run("look", wrong, "--encoding", "windows-1252").out()).contains("Weiße Heide");
    }

    @Test
    void severalFilesAreShownInALineEach() throws Exception {
        Path one = file("loan.csv", "id,code\n1,a\n2,b\n");
        Path other = file("sheet.jsonl", "{\"no\":1}\n");
        Path odd = file("odd.csv", "id,id\n1\n");
        Ferry look = Ferry.run("look", one, other, odd);
        assertThat(look.code()).isZero();
        assertThat(look.out())
                .containsPattern("loan\\.csv +delimited text .*1 +2 +2 +0")
                .containsPattern("sheet\\.jsonl +JSON lines +1 +1 +1 +0")
                .containsPattern("odd\\.csv +delimited text .* 1 +0 +2 +[1-9]")
                .contains("3 places")
                .contains("What is odd: ferry look " + odd);
        assertThat(Ferry.run("look", one, other).out()).contains("2 places");
        Ferry missing = Ferry.run("look", one, other, folder.resolve("none.csv"));
        assertThat(missing.code()).isEqualTo(1);
        assertThat(missing.out()).contains("Can't be read (1)", "none.csv: there is no such file");
        assertThat(Ferry.run("look", one, other, "--json").out()).contains("\"rows\" : 2", "\"odd\" : 0");
        assertThat(Ferry.run("look", one, other, "--definitions", one).code()).isEqualTo(2);
        // a table of a name that a file has, too
        assertThat(Ferry.run("look", one, "loan").out()).contains("2 records, 2 fields");
    }

    @Test
    void tablesAreListedByPatternAndOrder() throws Exception {
        StringBuilder script = new StringBuilder();
        for (int i = 0; i < 40; i++) {
            script.append("CREATE TABLE \"t").append(i).append("\" (\"a\" INT, \"b\" INT);\n");
        }
        script.append("CREATE TABLE \"wide\" (\"a\" INT, \"b\" INT, \"c\" INT);\n")
                .append("INSERT INTO \"t7\" VALUES (1, 2), (3, 4);\nINSERT INTO \"wide\" VALUES (1, 2, 3);\n");
        Path sql = file("many.sql", script.toString());
        Path base = folder.resolve("many.sqlite");
        assertThat(Ferry.run("load", sql, base, "--setting", "dialect=sqlite").code())
                .isZero();
        assertThat(Ferry.run("look", base).out())
                .contains("41 tables", "39 tables are empty; --all lists them")
                .doesNotContain("t33");
        assertThat(Ferry.run("look", base, "--all").out()).contains("t33").doesNotContain("are empty");
        String byRows = Ferry.run("look", base, "--sort", "rows").out();
        assertThat(byRows.indexOf("t7 ")).isLessThan(byRows.indexOf("wide"));
        String byColumns = Ferry.run("look", base, "--sort", "columns", "--all").out();
        assertThat(byColumns.indexOf("wide")).isLessThan(byColumns.indexOf("t7 "));
        assertThat(Ferry.run("look", base, "t1*").out())
                .contains("11 tables", "t19")
                .doesNotContain("wide");
        assertThat(Ferry.run("look", base, "x*").code()).isEqualTo(2);
    }

    @Test
    void aTryCountsWhatWouldBeRejected() throws Exception {
        Path csv = file("cut.csv", "id,code\n1,a\n2\n");
        Path base = folder.resolve("cut.sqlite");
        assertThat(Ferry.run("load", csv, base, "--try", "--rejects", folder.resolve("r.csv"))
                        .out())
                .contains("1 record would be rejected, with the reasons in " + folder.resolve("r.csv"))
                .doesNotContain("Every value");
        assertThat(base).doesNotExist();
        Ferry.run("load", file("good.csv", "id,code\n1,a\n"), base, "--as", "cut");
        assertThat(Ferry.run("load", folder.resolve("good.csv"), base, "--as", "cut", "--onto", "append", "--try")
                        .out())
                .contains("Every value and definition would be taken", "the load itself finds out");
    }

    @Test
    void coloursAreUsedWhenTheyAreAskedFor() throws Exception {
        Path csv = file("label.csv", "id\n1\n");
        assertThat(Ferry.run("look", csv).out()).doesNotContain("\u001b");
        assertThat(Ferry.run("look", csv, "--color", "always").out()).contains("\u001b[1m");
        assertThat(Ferry.run("--color=always", "look", csv).out()).contains("\u001b[1m");
        assertThat(Ferry.run("look", csv, "--color=always", "--color=never").out())
                .doesNotContain("\u001b");
        assertThat(Ferry.run("look", csv, "--color=blue").code()).isEqualTo(2);
    }

    @Test
    void keysOfSeveralColumnsAreFoundWhereverTheyStand() throws Exception {
        StringBuilder csv = new StringBuilder("kind,unit,remark,value,chamber,day,slot\n");
        for (int i = 0; i < 4 * 19 * 6; i++) {
            csv.append(i % 2 == 0 ? "dry,%," : "wet,%,")
                    .append("r,")
                    .append(i % 3)
                    .append(',');
            csv.append(String.format(java.util.Locale.ROOT, "%d,2031-04-%02d,%d%n", i / 114, i / 6 % 19 + 1, i % 6));
        }
        assertThat(Ferry.run("look", file("reading.csv", csv.toString())).out())
                .contains("Unique and never null: chamber + day + slot", "no primary key is taken");
        assertThat(Ferry.run("look", "--key", "chamber,day,slot", folder.resolve("reading.csv"))
                        .out())
                .contains("chamber + day + slot (taken as primary key)");
        // one line more, and there is no key
        csv.append("wet,%,r,1,0,2031-04-01,0\n");
        assertThat(Ferry.run("look", file("none.csv", csv.toString())).out())
                .contains("No field, and no two or three together, are unique and never null");
    }

    @Test
    void utf16WithoutAMarkIsFound() throws Exception {
        for (Charset encoding : new Charset[] {StandardCharsets.UTF_16LE, StandardCharsets.UTF_16BE}) {
            Path file = folder.resolve(encoding.name() + ".csv");
            Files.write(file, "no;name\n1;Weiße Heide\n2;\uD83C\uDF3F\n".getBytes(encoding));
            assertThat(Ferry.run("look", file).out())
                    .contains("delimited text with ';' between values in " + encoding.name())
                    .contains("2 records, 2 fields", "Weiße Heide", "\uD83C\uDF3F");
        }
    }

    @Test
    void theSmallestAndTheLargestAreThoseOfTheKindOfValue() throws Exception {
        Path file = file(
                "range.csv",
                "code,day,ratio,size,part\n007,04/05/2031,1E-5,10,x\n900,14/06/2031,-2.5E3,9,1\n015,01/12/2030,7,-3,2\n");
        assertThat(Ferry.run("look", file).out())
                .containsPattern("code .* 007 +900 ")
                .containsPattern("day .* 01/12/2030 +14/06/2031 ")
                .containsPattern("ratio .* -2.5E3 +7 ")
                .containsPattern("size .* -3 +10 ")
                .containsPattern("part .* 1 +x ");
    }

    @Test
    void aKeyIsTakenOnlyWhereItLooksLikeOne() throws Exception {
        Path named = file("bed.csv", "area,bed_id,who\n1.5,1,Ada\n2.5,2,Ben\n");
        assertThat(Ferry.run("look", named).out()).contains("bed_id (taken as primary key)");
        Path measured = file("weather.csv", "temp,rain,who\n1,7,Ada\n2,8,Ben\n");
        assertThat(Ferry.run("look", measured).out())
                .contains("Unique and never null: temp; rain; who")
                .contains("no primary key is taken, since what is unique here may be so by chance")
                .doesNotContain("taken as primary key");
        Path people = file("people.csv", "person,age\nAda Moss,31\nBen Fern,40\n");
        assertThat(Ferry.run("look", people).out()).doesNotContain("taken as primary key");
        Path codes = file("codes.csv", "sign,text\nQM-001,moss\nQM-002,fern\n");
        assertThat(Ferry.run("look", codes).out()).contains("sign (taken as primary key)");
        assertThat(Ferry.run("look", "--key", "none", codes).out()).doesNotContain("taken as primary key");
        assertThat(Ferry.run("look", "--key", "text", codes).out()).contains("text (taken as primary key)");
        Ferry wrong = Ferry.run("look", "--key", "nowhere", codes);
        assertThat(wrong.code()).isEqualTo(2);
        assertThat(wrong.err()).contains("the key's column nowhere");
    }

    @Test
    void typesLeaveRoomForTheNextFile() throws Exception {
        Path first = file("label.csv", "n,t,p\n1,moss,1.50\n2,fern,22.75\n");
        assertThat(Ferry.run("look", first).out()).contains("CHARACTER VARYING(10)", "DECIMAL(18,2)");
        assertThat(Ferry.run("look", "--tight-types", first).out()).contains("CHARACTER VARYING(4)", "DECIMAL(4,2)");
        Path target = folder.resolve("label.sqlite");
        assertThat(Ferry.run("load", first, target).code()).isZero();
        Path next = file("label.csv", "n,t,p\n3,liverwort,100.25\n");
        assertThat(Ferry.run("load", "--onto", "append", next, target).code()).isZero();
    }

    @Test
    void wordsThatKeepAColumnTextAreToldWithWhatToGive() throws Exception {
        StringBuilder csv = new StringBuilder("a;b;c;d;e\n");
        for (int i = 1; i <= 20; i++) {
            csv.append(i % 7 == 0 ? "NA" : i)
                    .append(';')
                    .append(i % 5 == 0 ? "-" : i + ".5")
                    .append(';');
            csv.append(i % 2 == 0 ? ".097" : "1.5")
                    .append(";2015/01/")
                    .append(10 + i)
                    .append(";Jan ")
                    .append(i)
                    .append(" 2000\n");
        }
        Path file = file("odd.csv", csv.toString());
        assertThat(Ferry.run("look", file).out())
                .contains("'NA', which may stand for nothing; the setting null says so (null=NA)")
                .contains("'-', which may stand for nothing")
                .contains("without a digit in front of the point, such as .097")
                .contains("days written as 2015/01/11; the setting dateFormat says how (yyyy/MM/dd)")
                .contains("days written as Jan 1 2000", "MMM d yyyy");
        assertThat(Ferry.run("look", file, "--setting", "null=NA", "--setting", "dateFormat=yyyy/MM/dd")
                        .out())
                .containsPattern("a +INTEGER")
                .containsPattern("d +DATE");
        assertThat(Ferry.run("look", file, "--setting", "dateFormat=MMM d yyyy").out())
                .containsPattern("e +DATE");
        Path jsonl = folder.resolve("odd.jsonl");
        Ferry convert = Ferry.run(
                "convert", file, jsonl, "--from-setting", "dateFormat=MMM d yyyy", "--type", "c=DECIMAL(5,3)");
        assertThat(convert.code()).as(convert.err()).isZero();
        assertThat(Files.readAllLines(jsonl).get(1))
                .isEqualTo("{\"a\":\"2\",\"b\":\"2.5\",\"c\":0.097,\"d\":\"2015/01/12\",\"e\":\"2000-01-02\"}");
    }
}
