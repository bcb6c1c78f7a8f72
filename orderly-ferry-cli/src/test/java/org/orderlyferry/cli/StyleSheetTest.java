package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;

/** Documents that go through a style sheet before they are read, or after they were written. */
class StyleSheetTest {

    private static final String HEAD =
            "<xsl:stylesheet version='1.0' xmlns:xsl='http://www.w3.org/1999/XSL/Transform'%s>%n";

    /** A catalogue by drawers, to one record for each sheet. */
    private static final String FLAT =
            """
            <xsl:output method='xml'/>
            <xsl:template match='/'><sheets><xsl:apply-templates select='//sheet'/></sheets></xsl:template>
            <xsl:template match='sheet'><row><no><xsl:value-of select='@no'/></no><drawer><xsl:value-of select='../@name'/></drawer>            <note><xsl:value-of select='.'/></note></row></xsl:template>
            </xsl:stylesheet>
            """;

    private static final String CABINET =
            "<cabinet><drawer name='A &amp; B'><sheet no='1'>moss</sheet><sheet no='2'>fern &lt;dry&gt;</sheet></drawer>"
                    + "<drawer name='C'><sheet no='3'>sedge \uD83C\uDF3F</sheet></drawer></cabinet>";

    @TempDir
    private Path folder;

    private Path file(String name, String text) throws Exception {
        return Files.writeString(folder.resolve(name), text);
    }

    private Path sheet(String body) throws Exception {
        return file("flat.xsl", String.format(HEAD, "") + body);
    }

    @Test
    void aDocumentOfAnotherShapeIsReadAsRecords() throws Exception {
        Path xml = file("cabinet.xml", CABINET);
        Path to = folder.resolve("sheets.jsonl");
        Ferry ferry = Ferry.run("convert", xml, to, "--from-setting", "style-sheet=" + sheet(FLAT));
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(Files.readAllLines(to))
                .containsExactly(
                        "{\"no\":1,\"drawer\":\"A & B\",\"note\":\"moss\"}",
                        "{\"no\":2,\"drawer\":\"A & B\",\"note\":\"fern <dry>\"}",
                        "{\"no\":3,\"drawer\":\"C\",\"note\":\"sedge \uD83C\uDF3F\"}");
        Path base = folder.resolve("sheets.sqlite");
        String setting = "style-sheet=" + folder.resolve("flat.xsl");
        assertThat(Ferry.run("load", xml, base, "--setting", setting).code()).isZero();
        assertThat(Ferry.run("look", base).out()).contains("sheets");
    }

    @Test
    void whatIsWrittenGoesThroughOneToo() throws Exception {
        Path csv = file("label.csv", "id,name\n1,moss\n2,a < b\n");
        Path sheet = sheet(
                """
                <xsl:output method='xml' omit-xml-declaration='yes'/>
                <xsl:template match='/*'><labels><xsl:for-each select='*'><label n='{id}'><xsl:value-of select='name'/></label>                </xsl:for-each></labels></xsl:template></xsl:stylesheet>
                """);
        Path to = folder.resolve("label.xml");
        Ferry ferry = Ferry.run("convert", csv, to, "--to-setting", "style-sheet=" + sheet);
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(Files.readString(to))
                .isEqualTo("<labels><label n=\"1\">moss</label><label n=\"2\">a &lt; b</label></labels>");
        assertThat(folder.toFile().list()).containsExactlyInAnyOrder("label.csv", "flat.xsl", "label.xml");
        Ferry set =
                Ferry.run("export", to, folder.resolve("set"), "--format", "xml", "--setting", "style-sheet=" + sheet);
        assertThat(set.code()).isEqualTo(2);
        assertThat(set.err()).contains("none goes through a style sheet");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<xsl:include href='other.xsl'/></xsl:stylesheet>",
                "<xsl:template match='/'><a><row><b><xsl:value-of select=\"document('secret.xml')\"/></b></row></a></xsl:template></xsl:stylesheet>",
                "<xsl:template match='/'><a><row><b xmlns:r='http://xml.apache.org/xalan/java/java.lang.Runtime'>"
                        + "<xsl:value-of select='r:getRuntime()'/></b></row></a></xsl:template></xsl:stylesheet>",
                "<xsl:template match='/'><xsl:message terminate='yes'>no</xsl:message></xsl:template></xsl:stylesheet>",
                "<xsl:template match='/'><xsl:call-template name='r'/></xsl:template><xsl:template name='r'><a><xsl:call-template"
                        + " name='r'/></a></xsl:template></xsl:stylesheet>",
                "<xsl:template match='['/></xsl:stylesheet>",
                "<xsl:template"
            })
    void oneThatReadsElsewhereCallsJavaOrIsWrongIsRefused(String body) throws Exception {
        file("secret.xml", "<s>m0ss-and-fern</s>");
        file("other.xsl", String.format(HEAD, "") + FLAT);
        Path to = folder.resolve("out.jsonl");
        Ferry ferry =
                Ferry.run("convert", file("cabinet.xml", CABINET), to, "--from-setting", "style-sheet=" + sheet(body));
        assertThat(ferry.code()).as(ferry.out()).isIn(2, 3);
        assertThat(ferry.err())
                .startsWith("ferry: ")
                .doesNotContain("unexpected")
                .doesNotContain("m0ss");
        assertThat(to).doesNotExist();
    }

    @Test
    void oneThatMakesTooMuchOfADocumentIsStopped() throws Exception {
        Path sheet = sheet("<xsl:template match='/'><a><xsl:call-template name='more'><xsl:with-param name='text'"
                + " select=\"'0123456789abcdef'\"/></xsl:call-template></a></xsl:template><xsl:template name='more'>"
                + "<xsl:param name='text'/><xsl:value-of select='$text'/><xsl:if test='string-length($text) &lt; 50000000'>"
                + "<xsl:call-template name='more'><xsl:with-param name='text' select='concat($text, $text)'/>"
                + "</xsl:call-template></xsl:if></xsl:template></xsl:stylesheet>");
        Ferry ferry = Ferry.run(
                "convert",
                file("cabinet.xml", CABINET),
                folder.resolve("o.jsonl"),
                "--from-setting",
                "style-sheet=" + sheet);
        assertThat(ferry.code()).as(ferry.out()).isEqualTo(2);
        assertThat(ferry.err()).contains("is larger than 64 MB");
    }

    @Test
    void aValueThatCannotBeWrittenIsToldAsWithoutOne() throws Exception {
        Path csv = file("label.csv", "id,name\n1,moss\n2,a\u0007b\n");
        Path to = folder.resolve("label.xml");
        Ferry ferry = Ferry.run("convert", csv, to, "--to-setting", "style-sheet=" + sheet(FLAT));
        assertThat(ferry.code()).isIn(2, 3);
        assertThat(ferry.err()).contains("U+0007").contains("line 3");
        assertThat(to).doesNotExist();
    }

    /** As real documents begin: a type with its elements and attributes, comments, instructions, and entities of their own. */
    @Test
    void aDocumentWithAllThatDocumentsBeginWithIsRead() throws Exception {
        Path xml = file(
                "old.xml",
                "<?xml version='1.0' encoding='UTF-8'?>\n<!-- the old cabinet -->\n<?show it?>\n<!DOCTYPE cabinet [\n"
                        + "<!ELEMENT cabinet (drawer*)>\n<!ATTLIST sheet no CDATA #REQUIRED kept CDATA 'dry'>\n"
                        + "<!ENTITY herb 'moss &#38;amp; fern'>\n]>\n<cabinet><drawer name='A'><!-- one -->"
                        + "<sheet no='1'><![CDATA[<dry>]]> &herb;</sheet><?turn?></drawer></cabinet>\n<!-- end -->\n");
        Path to = folder.resolve("old.jsonl");
        Ferry ferry = Ferry.run("convert", xml, to, "--from-setting", "style-sheet=" + sheet(FLAT));
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(Files.readString(to)).isEqualTo("{\"no\":1,\"drawer\":\"A\",\"note\":\"<dry> moss & fern\"}\n");
    }

    @Test
    void whoGoesOnSeesThatTheSheetIsAnotherOne() throws Exception {
        Path xml = file("cabinet.xml", CABINET);
        OpenOptions told = OpenOptions.builder()
                .files(FileSettings.NONE.with("style-sheet", sheet(FLAT).toString()))
                .build();
        String before = state(xml, told);
        assertThat(state(xml, told)).isEqualTo(before);
        sheet(FLAT.replace("<note>", "<note><!-- otherwise -->"));
        assertThat(state(xml, told)).isNotEqualTo(before);
    }

    private static String state(Path xml, OpenOptions options) {
        try (Place place = Places.open(PlaceAddress.of(xml.toString()), options)) {
            return place.state().orElseThrow();
        }
    }

    @Test
    void oneThatIsNotThereIsNamed() throws Exception {
        Ferry ferry = Ferry.run(
                "look", file("cabinet.xml", CABINET), "--setting", "style-sheet=" + folder.resolve("none.xsl"));
        assertThat(List.of(ferry.code())).containsExactly(2);
        assertThat(ferry.err()).contains("there is no style sheet");
    }

    @Test
    void entitiesInADocumentAreNoMoreTrustedThanWithoutOne() throws Exception {
        Path secret = file("secret.txt", "m0ss-and-fern");
        Path xml = file(
                "outside.xml",
                "<!DOCTYPE cabinet [<!ENTITY s SYSTEM '" + secret.toUri() + "'>]><cabinet><drawer><sheet no='1'>&s;"
                        + "</sheet></drawer></cabinet>");
        Ferry ferry =
                Ferry.run("convert", xml, folder.resolve("o.jsonl"), "--from-setting", "style-sheet=" + sheet(FLAT));
        assertThat(ferry.code()).isIn(2, 3);
        assertThat(ferry.err()).contains("names entities in other files");
    }
}
