package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.testkit.herbarium.Herbarium;

/** Documents of others: whatever holds something in them becomes a value. */
class XmlTest {

    @TempDir
    Path folder;

    @Test
    void aDocumentOfSomebodyElseIsReadByItsRecords() throws Exception {
        Path xml = Files.writeString(
                folder.resolve("garden.xml"),
                "<garden><owner>Q</owner><beds><plant id=\"1\"><name>moss</name><leaf>a</leaf><leaf>b</leaf></plant>"
                        + "<plant id=\"2\"><name>fern &amp; co</name></plant></beds></garden>");
        Path to = folder.resolve("garden.csv");
        Ferry ferry = Ferry.run("convert", xml, to, "--from-setting", "record=plant");
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(Files.readString(to))
                .isEqualTo("id,name,leaf\r\n1,moss,<leaf>a</leaf><leaf>b</leaf>\r\n2,fern & co,\r\n");
    }

    @Test
    void textOfAnXmlRecordItselfIsAValueToo() throws Exception {
        Path xml = Files.writeString(
                folder.resolve("tag.xml"),
                "<tags>\n <tag no='1'>moss <!-- no --> &amp; fern</tag>\n <tag no='2'><name>x</name>stray</tag>\n"
                        + " <tag no='3'><name/></tag>\n</tags>");
        Path to = folder.resolve("tag.jsonl");
        Ferry ferry = Ferry.run("convert", xml, to);
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(Files.readAllLines(to))
                .containsExactly(
                        "{\"no\":1,\"value\":\"moss  & fern\",\"name\":null}",
                        "{\"no\":2,\"value\":\"stray\",\"name\":\"x\"}",
                        "{\"no\":3,\"value\":null,\"name\":\"\"}");
    }

    @Test
    void markupInAValueKeepsItsNamespaces() throws Exception {
        Path xml = Files.writeString(
                folder.resolve("place.xml"),
                "<h:l xmlns:h='urn:h' xmlns='urn:d' xmlns:g='urn:g'><h:row><h:no>1</h:no><h:at>near <g:p g:q='a&quot;b'><c/>"
                        + "<g:r xmlns:g='urn:other'/></g:p> &lt;the pond</h:at></h:row></h:l>");
        Path to = folder.resolve("place.jsonl");
        assertThat(Ferry.run("convert", xml, to).code()).isZero();
        String markup = new ObjectMapper().readTree(to.toFile()).get("at").asText();
        assertThat(markup)
                .isEqualTo("near <g:p xmlns:g=\"urn:g\" g:q=\"a&quot;b\"><c xmlns=\"urn:d\"></c>"
                        + "<g:r xmlns:g=\"urn:other\"></g:r></g:p> &lt;the pond");
        // on its own it is XML all the same, and comes back through XML as it was
        Path back = folder.resolve("back.xml");
        assertThat(Ferry.run("convert", to, back).code()).isZero();
        Path again = folder.resolve("again.jsonl");
        assertThat(Ferry.run("convert", back, again).code()).isZero();
        assertThat(new ObjectMapper().readTree(again.toFile()).get("at").asText())
                .isEqualTo(markup);
    }

    @Test
    void attributesOfValuesAreValuesToo() throws Exception {
        Path xml = Files.writeString(
                folder.resolve("sheet.xml"),
                """
                <sheets>
                 <sheet><no>1</no><size unit="cm">12.5</size><place kind="bog"><lat>51.5</lat></place></sheet>
                 <sheet><no>2</no><size>7</size></sheet>
                </sheets>
                """);
        Path to = folder.resolve("sheet.jsonl");
        assertThat(Ferry.run("convert", xml, to).code()).isZero();
        assertThat(Files.readAllLines(to))
                .containsExactly(
                        "{\"no\":1,\"size.unit\":\"cm\",\"size\":12.5,\"place.kind\":\"bog\",\"place\":\"<lat>51.5</lat>\"}",
                        "{\"no\":2,\"size.unit\":null,\"size\":7.0,\"place.kind\":null,\"place\":null}");
    }

    @Test
    void aSchemaOfOthersIsUnderstood() throws Exception {
        Path xml = Files.writeString(
                folder.resolve("sheet.xml"),
                """
                <sheets xmlns="urn:sheets">
                 <sheet no="1"><size unit="cm">12.5</size><moss>Sphagnum</moss><tag>a</tag><tag>b</tag></sheet>
                 <sheet no="2"><size unit="m">7</size><fern>Dryopteris</fern></sheet>
                </sheets>
                """);
        Files.writeString(
                folder.resolve("sheet.xsd"),
                """
                <xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" targetNamespace="urn:sheets" xmlns="urn:sheets"
                           elementFormDefault="qualified">
                 <xs:simpleType name="short"><xs:restriction base="xs:string"><xs:maxLength value="20"/></xs:restriction>
                 </xs:simpleType>
                 <xs:complexType name="measure"><xs:simpleContent><xs:extension base="xs:decimal">
                   <xs:attributeGroup ref="units"/></xs:extension></xs:simpleContent></xs:complexType>
                 <xs:attributeGroup name="units"><xs:attribute name="unit" type="short" use="required"/></xs:attributeGroup>
                 <xs:element name="sheets"><xs:complexType><xs:sequence>
                  <xs:element name="sheet" maxOccurs="unbounded"><xs:complexType><xs:sequence>
                    <xs:element name="size" type="measure"/>
                    <xs:choice><xs:element name="moss" type="short"/><xs:element name="fern" type="short"/></xs:choice>
                    <xs:element name="tag" type="short" minOccurs="0" maxOccurs="unbounded"/>
                   </xs:sequence><xs:attribute name="no" type="xs:int" use="required"/></xs:complexType></xs:element>
                 </xs:sequence></xs:complexType>
                  <xs:key name="k"><xs:selector xpath="sheet"/><xs:field xpath="@no"/></xs:key></xs:element>
                </xs:schema>
                """);
        Path to = folder.resolve("sheet.jsonl");
        Ferry ferry = Ferry.run("convert", xml, to);
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(Files.readAllLines(to))
                .containsExactly(
                        "{\"size\":12.5,\"size.unit\":\"cm\",\"moss\":\"Sphagnum\",\"fern\":null,"
                                + "\"tag\":\"<tag>a</tag><tag>b</tag>\",\"no\":1}",
                        "{\"size\":7,\"size.unit\":\"m\",\"moss\":null,\"fern\":\"Dryopteris\",\"tag\":null,\"no\":2}");
        assertThat(Ferry.run("look", xml).out())
                .contains("no (taken as primary key)", "CHARACTER VARYING(20)")
                .doesNotContain("proposed");
        Files.writeString(
                folder.resolve("sheet.xsd"),
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'><xs:element name='sheets'><xs:complexType><xs:sequence>"
                        + "<xs:element name='sheet' type='t'/></xs:sequence></xs:complexType></xs:element><xs:complexType name='t'>"
                        + "<xs:complexContent><xs:extension base='t'/></xs:complexContent></xs:complexType></xs:schema>");
        assertThat(Ferry.run("convert", xml, folder.resolve("no.jsonl")).err())
                .contains("refers to itself without end");
    }

    @Test
    void keysAndReferencesOfASchemaAreReadBack() throws Exception {
        Path old = folder.resolve("old.mv.db");
        new Herbarium().specimens(20).readings(10).create(old);
        Path xml = folder.resolve("herbarium.xml");
        assertThat(Ferry.run("convert", old, xml, "taxon", "specimen", "determination", "--to-setting", "version=1.1")
                        .code())
                .isZero();
        Files.delete(folder.resolve("herbarium.xml-metadata.json"));
        try (Place before = Places.open(old.toString());
                Place after = Places.open(xml.toString())) {
            for (String name : new String[] {"taxon", "specimen", "determination"}) {
                TableDefinition was = before.define(TableName.of(name));
                TableDefinition is = after.define(TableName.of(name));
                assertThat(is.primaryKey().orElseThrow().columns())
                        .isEqualTo(was.primaryKey().orElseThrow().columns());
                Set<TableName> there = Set.of(TableName.of("taxon"), TableName.of("specimen"));
                assertThat(is.foreignKeys().stream().map(k -> k.columns() + " " + k.target() + k.targetColumns()))
                        .containsExactlyInAnyOrderElementsOf(was.foreignKeys().stream()
                                .filter(k -> there.contains(k.target()))
                                .map(k -> k.columns() + " " + k.target() + k.targetColumns())
                                .toList())
                        .isNotEmpty();
            }
        }
    }
}
