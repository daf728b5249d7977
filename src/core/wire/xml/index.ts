export { escapeXml, readXml } from './read-xml';
