import sharp from 'sharp';
import { Resvg } from '@resvg/resvg-js';
import { writeFileSync } from 'node:fs';
let st=12345; const R=()=>{st^=st<<13;st^=st>>>17;st^=st<<5;st>>>=0;return st/4294967296}; const G=()=>Math.sqrt(-2*Math.log(R()+1e-12))*Math.cos(6.2831853*R());
const W=+process.argv[2]||4000,H=Math.round(W*0.75), k=W/4000;
// 14 outlines: closed shapes drawn with thin lines
function scene(width, colour, grid){let s='';let n=0;for(let r=0;r<2;r++)for(let c=0;c<7;c++){const x=(300+c*550)*k,y=(600+r*1300)*k,q=(150+40*((r*7+c)%3))*k;s+=n%3===0?`<circle cx="${x}" cy="${y}" r="${q}"/>`:n%3===1?`<path d="M${x-q} ${y-q}L${x+q} ${y-q*0.8}L${x+q*.7} ${y+q}L${x-q*.9} ${y+q*.8}Z"/>`:`<path d="M${x-q} ${y}C${x-q} ${y-q*1.4} ${x+q} ${y-q*1.4} ${x+q} ${y}S${x-q} ${y+q*1.4} ${x-q} ${y}Z"/>`;n++}
 let g='';if(grid){for(let x=0;x<W;x+=65*k)g+=`<path d="M${x} 0V${H}" stroke="#7fb2e0" stroke-width="${3*k}"/>`;for(let y=0;y<H;y+=65*k)g+=`<path d="M0 ${y}H${W}" stroke="#7fb2e0" stroke-width="${3*k}"/>`}
 return `<svg xmlns="http://www.w3.org/2000/svg" width="${W}" height="${H}" viewBox="0 0 ${W} ${H}"><rect width="100%" height="100%" fill="#fff"/>${g}<g fill="none" stroke="${colour}" stroke-width="${width*k}">${s}</g></svg>`}
async function photo(name,{width,colour,ink=1,noise=6,fall=.35,shadow=false,grid=false,dark=false,blur=1.2}){
 const raw=new Resvg(scene(width,colour,grid)).render(); const px=raw.pixels; const out=Buffer.alloc(W*H*3);
 for(let y=0;y<H;y++)for(let x=0;x<W;x++){const i=4*(y*W+x);let light=1-fall*(x/W*.7+y/H*.3);if(shadow){const d=Math.hypot(x-W*.3,y-H*.7)/(W*.25);light*=1-.35/(1+Math.exp((d-1)*14))}
  for(let c=0;c<3;c++){let v=px[i+c];let cover=(255-v)/255*ink;let base=dark?45:(c===2?222:232);let target=dark?215:v===255?base:0;let val=dark?base+(215-base)*cover:base*(1-cover);out[3*(y*W+x)+c]=Math.max(0,Math.min(255,val*light))}}
 let img=sharp(out,{raw:{width:W,height:H,channels:3}}).blur(blur);const b=await img.raw().toBuffer();for(let i=0;i<b.length;i++)b[i]=Math.max(0,Math.min(255,b[i]+noise*G()));
 await sharp(b,{raw:{width:W,height:H,channels:3}}).jpeg({quality:88}).toFile('/tmp/paper/'+name+'.jpg');}
await photo('pencil',{width:4.5,colour:'#000',ink:.45});
await photo('ball',{width:4,colour:'#102060',ink:.8});
await photo('marker',{width:14,colour:'#000',ink:.95,fall:.5});
await photo('chalk',{width:10,colour:'#000',ink:.8,dark:true});
await photo('grid',{width:5,colour:'#000',ink:.85,grid:true});
await photo('shadow',{width:4.5,colour:'#000',ink:.5,shadow:true});
